// Live mode: the controller in real time, on the services that its wires name. Lines on standard input are trace events
// whose t is ignored; what the controller does is printed as in trace mode, and what its links say of themselves.
#include <poll.h>
#include <time.h>
#include <unistd.h>

#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <string>
#include <vector>

#include "controller.h"
#include "events.h"
#include "output.h"
#include "portWords.h"
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

// ---- paired or not: on this machine's stand-ins of a store, of the short range and of the air ----

vestibule::pairing::Pairing pairing;
vestibule::pairing::Settings settings;
PosixSocket phone;
PosixListener shortRange;
bool endsDue = false;  ///< the credentials are gone, and with them every connection

const char* environment(const char* name) {
  const char* value = std::getenv(name);
  return value == nullptr ? "" : value;
}

/// The board's store as a file; without one nothing outlives the program.
std::FILE* storeFile() {
  static std::FILE* const file = [] {
    const char* path = environment("VESTIBULE_STORE");
    std::FILE* opened = std::fopen(path, "r+b");
    return opened != nullptr ? opened : std::fopen(path, "w+b");
  }();
  return file;
}
const vestibule::Memory STORE = {
    nullptr,
    [](void*, size_t at) -> uint8_t {
      if (storeFile() == nullptr || std::fseek(storeFile(), static_cast<long>(at), SEEK_SET) != 0) return 0xff;
      const int byte = std::fgetc(storeFile());
      return byte == EOF ? 0xff : static_cast<uint8_t>(byte);
    },
    [](void*, size_t at, uint8_t value) {
      if (storeFile() == nullptr || std::fseek(storeFile(), static_cast<long>(at), SEEK_SET) != 0) return;
      std::fputc(value, storeFile());
      std::fflush(storeFile());
    }};

/// Networks that are there, as lines of name, tab and password. Without a file there is no air between: all are joined.
bool isOnAir() {
  if (settings.isForgotten) return false;
  const char* path = environment("VESTIBULE_AIR");
  if (path[0] == '\0') return true;
  std::ifstream air(path);
  const std::string wanted = std::string(settings.network) + "\t" + settings.secret;
  for (std::string line; std::getline(air, line);) {
    if (line == wanted) return true;
  }
  return false;
}

void goesWhereItIsTold() {
  for (uint8_t i = 0; i < running->image->linkCount; i++) {
    const vestibule::pairing::LinkSettings& link = settings.links[i];
    goesTo(transports, i, {link.address, link.port, link.user, link.password});
  }
}

void preparesPairing() {
  const char* port = environment("VESTIBULE_PAIRING_PORT");
  shortRange.caller = &phone;
  vestibule::pairing::prepare(pairing, identity(), listenerOf(shortRange), socketOf(phone),
                              static_cast<uint16_t>(std::atoi(port)), settings);
  if (vestibule::pairing::load(settings, STORE, 0)) goesWhereItIsTold();
}

void offers(uint32_t now) {
  if (pairing.port != 0 && vestibule::pairing::offer(pairing, now)) writePairing(now, "offered");
}

void forgets() {
  settings = vestibule::pairing::Settings();
  settings.isForgotten = true;
  vestibule::pairing::save(settings, STORE, 0);
  endsDue = true;
}

void passesPairing(uint32_t now) {
  if (endsDue) endAll(transports);
  endsDue = false;
  const bool was = pairing.isOffered;
  vestibule::pairing::pass(pairing, now);
  if (vestibule::pairing::takesNews(pairing)) {
    vestibule::pairing::save(settings, STORE, 0);
    goesWhereItIsTold();
    endAll(transports);
    writePairing(now, "paired");
  } else if (was && !pairing.isOffered) {
    writePairing(now, "over");
  }
}

const vestibule::Port PORT = {
    nullptr,
    [](void*, uint8_t channel, uint8_t contact, bool closed, bool) { writeOut(*running, channel, contact, closed); },
    [](void*, uint8_t link, const char* topic, const char* payload, bool retain) {
      writePublish(*running, link, topic, payload, retain);
      says(*engine, running->now, link, topic, payload, retain);
      if (namesTables(payload)) {
        char words[PORT_WORDS];
        portWords(words, NO_SIGNAL, running->now);
        says(*engine, running->now, link, topic, words, false);
      }
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
    [](void*, bool reset) {
      writeCredentials(*running, reset);
      if (reset) {
        forgets();
      } else {
        offers(running->now);
      }
    },
    nullptr,
};

const Ground GROUND = {
    nullptr,
    [](void*) { return isOnAir(); },
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
  preparesPairing();
}

// The first link at another address than the secrets name, with the login of the environment.
void firstGoesTo(const char* address, uint16_t port) {
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
  pollfd all[3 + 3 * MOST_LINKS];
  nfds_t count = 0;
  all[count++] = {STDIN_FILENO, POLLIN, 0};
  for (uint8_t i = 0; i < running->image->linkCount; i++) {
    for (const int handle : {connections[i].handle, listeners[i].handle, callers[i].handle}) {
      if (handle >= 0) all[count++] = {handle, POLLIN, 0};
    }
  }
  for (const int handle : {phone.handle, shortRange.handle}) {
    if (handle >= 0 && pairing.isOffered) all[count++] = {handle, POLLIN, 0};
  }
  poll(all, count, untilDue());
  return all[0].revents == 0 || readStandardInput(buffer, events);
}

}  // namespace

int runLive(const char* address, int port, bool mirrors) {
  prepares(mirrors);
  if (address != nullptr) firstGoesTo(address, static_cast<uint16_t>(port));
  std::setvbuf(stdout, nullptr, _IOLBF, 0);
  Event power;
  power.kind = Event::Kind::power;
  power.on = true;
  std::vector<Event> events = {power};
  // what knows no network offers itself from its first power on
  if (!settings.isPaired && !isOnAir()) offers(nowMs());
  std::string buffer;
  std::string unknown;
  for (bool open = true; open;) {
    const uint32_t now = nowMs();
    if (!events.empty() && !applyInstant(*running, now, events, unknown))
      std::fprintf(stderr, "there is no %s\n", unknown.c_str());
    events.clear();
    vestibule::begin(*running, now);
    pass(transports, now);
    passesPairing(now);
    vestibule::finish(*running);
    goOn(transports, now);
    open = waits(buffer, events);
  }
  return 0;
}

}  // namespace host
