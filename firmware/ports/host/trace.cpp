// Trace mode: JSON lines in on standard input, JSON lines out. Exit 2 with one line on a trace that cannot be read. A
// line with a single ~ ends a trace and begins another on a new controller; it is answered by a ~.
#include <cstdio>
#include <iostream>
#include <string>
#include <vector>

#include "controller.h"
#include "events.h"
#include "output.h"

namespace host {

namespace {

vestibule::Device* running = nullptr;

const vestibule::Port PORT = {
    nullptr,
    [](void*, uint8_t channel, uint8_t contact, bool closed, bool) { writeOut(*running, channel, contact, closed); },
    [](void*, uint8_t link, const char* topic, const char* payload, bool retain) {
      writePublish(*running, link, topic, payload, retain);
    },
    [](void*, uint8_t link, const char* topic) { writeSubscribe(*running, link, topic); },
    [](void*, uint8_t link) { writeJoin(*running, link); },
    [](void*) { writeStore(*running); },
    [](void*) { writeLine(*running); },
    [](void*, char character) { writeSay(*running, character); },
    [](void*, bool reset) { writeCredentials(*running, reset); },
    nullptr,
};

int refuse(size_t line, const std::string& what) {
  std::fprintf(stderr, "trace line %zu: %s\n", line, what.c_str());
  return 2;
}

}  // namespace

int runTrace(bool mirrors) {
  running = &controller(PORT);
  running->mirrors = mirrors;
  std::vector<Event> instant;
  std::string line;
  std::string unknown;
  size_t number = 0;
  bool first = true;
  const auto play = [&]() {
    if (instant.empty()) return true;
    if (first) {
      bool hasPower = false;
      for (const Event& event : instant) hasPower = hasPower || event.kind == Event::Kind::power;
      if (!hasPower) {
        Event power;
        power.kind = Event::Kind::power;
        power.on = true;
        instant.insert(instant.begin(), power);
      }
      first = false;
    }
    const bool fine = applyInstant(*running, instant.back().t, instant, unknown);
    instant.clear();
    return fine;
  };
  while (std::getline(std::cin, line)) {
    number++;
    if (line == "~") {
      if (!play()) return refuse(number, "there is no " + unknown);
      std::puts("~");
      running = &controller(PORT);
      running->mirrors = mirrors;
      first = true;
      continue;
    }
    if (line.find_first_not_of(" \t\r") == std::string::npos) continue;
    Event event;
    if (!readEvent(line, event)) return refuse(number, "not an event of a trace");
    if (!instant.empty() && event.t != instant.back().t && !play()) return refuse(number, "there is no " + unknown);
    instant.push_back(event);
  }
  if (!play()) return refuse(number, "there is no " + unknown);
  return 0;
}

}  // namespace host
