// Wires mode: a trace through the runtime and the wire engine, as trace mode does it through the runtime alone. What
// comes over a wire is worked off by itself, in its order, before anything else of its instant; requests begin at the
// instant's end.
#include <cstdio>
#include <iostream>
#include <string>
#include <vector>

#include "controller.h"
#include "events.h"
#include "output.h"

namespace host {

namespace {

vestibule::Device* device = nullptr;
vestibule::wires::Engine* engine = nullptr;

const char* idOf(uint8_t link) { return device->image->links[link].id; }

const vestibule::Port PORT = {
    nullptr,
    [](void*, uint8_t channel, uint8_t contact, bool closed, bool) { writeOut(*device, channel, contact, closed); },
    [](void*, uint8_t link, const char* topic, const char* payload, bool retain) {
      vestibule::wires::says(*engine, device->now, link, topic, payload, retain);
    },
    [](void*, uint8_t link, const char* topic) { vestibule::wires::subscribes(*engine, link, topic); },
    [](void*, uint8_t link) { vestibule::wires::joins(*engine, device->now, link); },
    [](void*) { writeStore(*device); },
    [](void*) { writeLine(*device); },
    [](void*, char character) { writeSay(*device, character); },
    [](void*, bool reset) { writeCredentials(*device, reset); },
    nullptr,
};

const vestibule::wires::Far FAR = {
    nullptr,
    [](void*, uint8_t link) { writeConnect(device->now, idOf(link)); },
    [](void*, uint8_t link, const char* topic, uint8_t qos) { writeHear(device->now, idOf(link), topic, qos); },
    [](void*, uint8_t link, const char* topic, const char* payload, uint8_t qos, bool retain) {
      writeWireSay(device->now, idOf(link), topic, payload, qos, retain);
    },
    [](void*, uint8_t link, const char* method, const char* path, const char* body) {
      writeAsk(device->now, idOf(link), method, path, body);
    },
    [](void*, uint8_t link, uint16_t status) { writeReply(device->now, idOf(link), status); },
    [](void*, uint8_t link, const char* text) { writeNote(device->now, idOf(link), text); },
};

int32_t difference(uint32_t a, uint32_t b) { return static_cast<int32_t>(a - b); }

void step(uint32_t now, const std::vector<Event>& events, std::string& unknown) {
  applyInstant(*device, now, events, unknown);
}

void ends(uint32_t now) {
  vestibule::begin(*device, now);
  vestibule::wires::tick(*engine, now);
  vestibule::finish(*device);
  vestibule::wires::pump(*engine, now);
}

// From deadline to deadline of either, so that what one does finds the other at the same instant.
void runUpTo(uint32_t now) {
  for (;;) {
    uint32_t at = 0;
    uint32_t other = 0;
    const bool due = vestibule::nextDeadline(*device, at);
    const bool otherDue = vestibule::wires::nextDeadline(*engine, other);
    if (!due && !otherDue) return;
    const uint32_t next = !due ? other : !otherDue ? at : difference(other, at) < 0 ? other : at;
    if (difference(next, now) >= 0) return;
    std::string unknown;
    step(next, {}, unknown);
    ends(next);
  }
}

void comes(const Event& event, uint32_t now, uint8_t link) {
  using namespace vestibule::wires;
  switch (event.kind) {
    case Event::Kind::open: return opens(*engine, link, event.on);
    case Event::Kind::heard:
      return hears(*engine, link, event.topic.c_str(), event.payload.data(), event.payload.size(), event.retain);
    case Event::Kind::answer:
      return answers(*engine, now, link, event.status, event.payload.data(), event.payload.size());
    case Event::Kind::call:
      return called(*engine, now, link, event.method.c_str(), event.path.c_str(), event.key.c_str(),
                    event.once.c_str());
    default: return;
  }
}

bool play(const std::vector<Event>& events, bool first, std::string& unknown) {
  const uint32_t now = events.back().t;
  if (!first) runUpTo(now);
  std::vector<Event> own;
  bool hasPower = false;
  for (const Event& event : events) {
    hasPower = hasPower || event.kind == Event::Kind::power;
    if (!isOfWire(event)) own.push_back(event);
  }
  if (first && !hasPower) {
    Event power;
    power.kind = Event::Kind::power;
    power.on = true;
    step(now, {power}, unknown);
  }
  for (const Event& event : events) {
    uint8_t link = 0;
    if (!isOfWire(event)) continue;
    if (!findLink(*device->image, event.of, link)) {
      unknown = "link \"" + event.of + "\"";
      return false;
    }
    vestibule::begin(*device, now);
    comes(event, now, link);
    vestibule::finish(*device);
  }
  if (!applyInstant(*device, now, own, unknown)) return false;
  ends(now);
  return true;
}

int refuse(size_t line, const std::string& what) {
  std::fprintf(stderr, "trace line %zu: %s\n", line, what.c_str());
  return 2;
}

void start() {
  device = &controller(PORT);
  engine = &wires(FAR, *device);
}

}  // namespace

int runWires() {
  start();
  std::vector<Event> instant;
  std::string line;
  std::string unknown;
  size_t number = 0;
  bool first = true;
  const auto done = [&]() {
    const bool fine = instant.empty() || play(instant, first, unknown);
    first = first && instant.empty();
    instant.clear();
    return fine;
  };
  while (std::getline(std::cin, line)) {
    number++;
    if (line == "~") {
      if (!done()) return refuse(number, "there is no " + unknown);
      std::puts("~");
      start();
      first = true;
      continue;
    }
    if (line.find_first_not_of(" \t\r") == std::string::npos) continue;
    Event event;
    if (!readEvent(line, event)) return refuse(number, "not an event of a trace");
    if (!instant.empty() && event.t != instant.back().t && !done()) return refuse(number, "there is no " + unknown);
    instant.push_back(event);
  }
  return done() ? 0 : refuse(number, "there is no " + unknown);
}

}  // namespace host
