// Live mode: the controller in real time, on the services that its wires name. Lines on standard input are trace events
// whose t is ignored; what the controller does is printed as in trace mode, and what its links say of themselves.
#include <poll.h>
#include <time.h>
#include <unistd.h>

#include <cstdio>
#include <cstdlib>
#include <string>
#include <vector>

#include "controller.h"
#include "events.h"
#include "output.h"
#include "sockets.h"
#include "transports.h"

namespace host {

namespace {

using namespace vestibule::wires;
using vestibule::MOST_LINKS;

constexpr uint16_t IN_BYTES = 2048;
constexpr uint16_t OUT_BYTES = 32768;

vestibule::Device* running = nullptr;
Engine* engine = nullptr;
Transports transports;
Line lines[MOST_LINKS];
PosixSocket connections[MOST_LINKS];
PosixSocket callers[MOST_LINKS];
PosixListener listeners[MOST_LINKS];
uint8_t in[MOST_LINKS][IN_BYTES];
uint8_t out[MOST_LINKS][OUT_BYTES];

uint32_t nowMs() {
  static timespec start = {0, 0};
  timespec now;
  clock_gettime(CLOCK_MONOTONIC, &now);
  if (start.tv_sec == 0) start = now;
  return static_cast<uint32_t>((now.tv_sec - start.tv_sec) * 1000L + (now.tv_nsec - start.tv_nsec) / 1000000L);
}

const vestibule::Port PORT = {
    nullptr,
    [](void*, uint8_t channel, uint8_t contact, bool closed, bool) { writeOut(*running, channel, contact, closed); },
    [](void*, uint8_t link, const char* topic, const char* payload, bool retain) {
      writePublish(*running, link, topic, payload, retain);
      says(*engine, running->now, link, topic, payload, retain);
    },
    [](void*, uint8_t link, const char* topic) {
      writeSubscribe(*running, link, topic);
      subscribes(*engine, link, topic);
    },
    [](void*, uint8_t link) {
      writeJoin(*running, link);
      joins(*engine, running->now, link);
    },
    [](void*) { writeStore(*running); },
    [](void*) { writeLine(*running); },
    [](void*, char character) { writeSay(*running, character); },
    [](void*, bool reset) { writeCredentials(*running, reset); },
    nullptr,
};

const Ground GROUND = {
    nullptr,
    [](void*) { return true; },
    [](void*, uint8_t link, const char* text) { writeNote(running->now, running->image->links[link].id, text); },
};

void prepares(bool mirrors) {
  running = &controller(PORT);
  running->mirrors = mirrors;
  const uint8_t count = running->image->linkCount;
  Socket sockets[MOST_LINKS];
  Buffers buffers[MOST_LINKS];
  for (uint8_t i = 0; i < count; i++) {
    sockets[i] = socketOf(connections[i]);
    buffers[i] = {in[i], IN_BYTES, out[i], OUT_BYTES};
  }
  const Far& far = prepare(transports, GROUND, lines, count, sockets, buffers);
  engine = &wires(far, *running);
  for (uint8_t i = 0; i < count; i++) {
    listeners[i].caller = &callers[i];
    listens(transports, i, listenerOf(listeners[i]), socketOf(callers[i]));
  }
  begin(transports, *engine);
}

// The first link at another address than the secrets name, with the login of the environment.
void goesTo(const char* address, uint16_t port) {
  const char* user = std::getenv("VESTIBULE_BROKER_USER");
  const char* password = std::getenv("VESTIBULE_BROKER_PASSWORD");
  lines[0].address = address;
  lines[0].port = port;
  lines[0].login.user = user == nullptr ? "" : user;
  lines[0].login.password = password == nullptr ? "" : password;
}

bool readStandardInput(std::string& buffer, std::vector<Event>& events) {
  char chunk[4096];
  const ssize_t size = read(STDIN_FILENO, chunk, sizeof chunk);
  if (size <= 0) return false;
  buffer.append(chunk, static_cast<size_t>(size));
  for (size_t end = buffer.find('\n'); end != std::string::npos; end = buffer.find('\n')) {
    Event event;
    if (readEvent(buffer.substr(0, end), event)) events.push_back(event);
    buffer.erase(0, end + 1);
  }
  return true;
}

/// Nothing here is so slow to be noticed that it needs more.
constexpr int LONGEST_WAIT_MS = 20;

// How long nothing is due by itself, ms.
int untilDue() {
  int32_t longest = LONGEST_WAIT_MS;
  uint32_t at = 0;
  const uint32_t now = nowMs();
  const auto sooner = [&]() {
    const int32_t left = static_cast<int32_t>(at - now);
    if (left < longest) longest = left < 0 ? 0 : left;
  };
  if (vestibule::nextDeadline(*running, at)) sooner();
  if (vestibule::wires::nextDeadline(*engine, at)) sooner();
  return longest;
}

// Until something comes or is due.
bool waits(std::string& buffer, std::vector<Event>& events) {
  pollfd all[1 + 3 * MOST_LINKS];
  nfds_t count = 0;
  all[count++] = {STDIN_FILENO, POLLIN, 0};
  for (uint8_t i = 0; i < running->image->linkCount; i++) {
    for (const int handle : {connections[i].handle, listeners[i].handle, callers[i].handle}) {
      if (handle >= 0) all[count++] = {handle, POLLIN, 0};
    }
  }
  poll(all, count, untilDue());
  return all[0].revents == 0 || readStandardInput(buffer, events);
}

}  // namespace

int runLive(const char* address, int port, bool mirrors) {
  prepares(mirrors);
  if (address != nullptr) goesTo(address, static_cast<uint16_t>(port));
  std::setvbuf(stdout, nullptr, _IOLBF, 0);
  Event power;
  power.kind = Event::Kind::power;
  power.on = true;
  std::vector<Event> events = {power};
  std::string buffer;
  std::string unknown;
  for (bool open = true; open;) {
    const uint32_t now = nowMs();
    if (!events.empty() && !applyInstant(*running, now, events, unknown))
      std::fprintf(stderr, "there is no %s\n", unknown.c_str());
    events.clear();
    vestibule::begin(*running, now);
    pass(transports, now);
    vestibule::finish(*running);
    goOn(transports, now);
    open = waits(buffer, events);
  }
  return 0;
}

}  // namespace host
