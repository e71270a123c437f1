// Runs the port for board cores on a stand-in for such a core: pins, clock, serial port, link and store are made here,
// and the port's own loop is called each millisecond.
//
// Standard input, in order of time t (ms):
//   t P pin level            a level at a pin
//   t C code                 a character on the serial port
//   t M link retain topic payload  a message; the payload goes to the end of the line
//   t L link 0|1             a link is gone, is up
//   t S sensor value         a reading, thousandths
//   t T weekMs               the clock is known
//   t I µs µs …              durations at the receiver, a mark first
//   t E                      end
//
// Standard output, each with its ms:
//   D pin level              an output changes
//   B code                   a byte on the serial port
//   P link retain topic payload  a message
//   U link topic             a subscription
//   J link                   the port is asked to join
//   G pair|reset             the gestures of credentials
//   R 0|1, W 0|1             (told) the broker refuses; it waits to be paired
//   X text                   what must not be
#include "mockCore.h"

#include <cstdio>
#include <cstring>
#include <deque>
#include <iostream>
#include <sstream>
#include <string>
#include <vector>

#include "controller.h"
#include "settings.h"

MockSerial Serial;

namespace {

uint64_t nowUs = 0;
int levels[256];
int modes[256];
void (*edgeHandler)() = nullptr;
int edgePin = -1;
std::deque<int> serialIn;
bool written[256];

unsigned long ms() { return static_cast<unsigned long>(nowUs / 1000); }

/// The network as the trace says: what comes is told in the next pass.
struct Told {
  bool isMessage;
  uint8_t link;
  bool flag;  ///< retained; up
  std::string topic, payload;
};

class TraceNetwork final : public core::Network {
 public:
  std::vector<Told> waiting;
  bool saysNo = false;
  bool offered = false;

  void join(uint8_t link) override { std::printf("%lu J %d\n", ms(), link); }
  void publish(uint8_t link, const char* topic, const char* payload, bool retain) override {
    std::printf("%lu P %d %d %s %s\n", ms(), link, retain ? 1 : 0, topic, payload);
  }
  void subscribe(uint8_t link, const char* topic) override { std::printf("%lu U %d %s\n", ms(), link, topic); }
  void pair() override { std::printf("%lu G pair\n", ms()); }
  void forget() override { std::printf("%lu G reset\n", ms()); }
  bool refused() override { return saysNo; }
  bool waitsToBePaired() override { return offered; }
  void before(uint32_t) override {
    for (const Told& told : waiting) {
      if (told.isMessage) {
        core::controllerHears(told.link, told.topic.c_str(), reinterpret_cast<const uint8_t*>(told.payload.data()),
                              told.payload.size(), told.flag);
      } else {
        core::controllerLinkIs(told.link, told.flag);
      }
    }
    waiting.clear();
  }
  void after(uint32_t) override {}
};

TraceNetwork network;
uint8_t memory[1024];
const core::Store STORE = {[](size_t at) -> uint8_t { return memory[at]; },
                           [](size_t at, uint8_t value) { memory[at] = value; }, []() {}};

struct Edge {
  uint64_t at;
  int level;
};
std::deque<Edge> edges;

// Time goes on to a millisecond; what the receiver does on the way interrupts.
void runTo(uint64_t us) {
  while (!edges.empty() && edges.front().at < us) {
    nowUs = edges.front().at;
    if (edgePin >= 0) levels[edgePin] = edges.front().level;
    edges.pop_front();
    if (edgeHandler != nullptr) edgeHandler();
  }
  nowUs = us;
}

void apply(std::istringstream& words, const std::string& what) {
  if (what == "P") {
    int pin, level;
    words >> pin >> level;
    levels[pin] = level;
  } else if (what == "C") {
    int code;
    words >> code;
    serialIn.push_back(code);
  } else if (what == "M") {
    Told told = {true, 0, false, "", ""};
    int link, retain;
    words >> link >> retain >> told.topic;
    told.link = static_cast<uint8_t>(link);
    told.flag = retain != 0;
    words.get();
    std::getline(words, told.payload);
    network.waiting.push_back(told);
  } else if (what == "L") {
    int link, up;
    words >> link >> up;
    network.waiting.push_back({false, static_cast<uint8_t>(link), up != 0, "", ""});
  } else if (what == "R") {
    words >> network.saysNo;
  } else if (what == "W") {
    words >> network.offered;
  } else if (what == "S") {
    int sensor;
    long value;
    words >> sensor >> value;
    core::controllerReads(static_cast<uint8_t>(sensor), static_cast<int32_t>(value));
  } else if (what == "T") {
    unsigned long weekMs;
    words >> weekMs;
    core::controllerKnowsTime(static_cast<uint32_t>(weekMs));
  } else if (what == "I") {
    uint64_t at = nowUs, us;
    bool mark = true;
    // a receiver's output is low while it sees a mark
    edges.push_back({at, 0});
    while (words >> us) {
      at += us;
      mark = !mark;
      edges.push_back({at, mark ? 0 : 1});
    }
  }
}

}  // namespace

void digitalWrite(uint8_t pin, uint8_t level) {
  if (modes[pin] == OUTPUT && levels[pin] != level) std::printf("%lu D %d %d\n", ms(), pin, level);
  levels[pin] = level;
  written[pin] = true;
}
// A pin must have its safe level before it drives anything.
void pinMode(uint8_t pin, uint8_t mode) {
  if (mode == OUTPUT && !written[pin])
    std::printf("%lu X pin %d becomes an output without its safe level\n", ms(), pin);
  modes[pin] = mode;
}
int digitalRead(uint8_t pin) { return levels[pin]; }
unsigned long millis() { return ms(); }
unsigned long micros() { return static_cast<unsigned long>(nowUs); }
void attachInterrupt(int number, void (*edge)(), int) {
  edgePin = number;
  edgeHandler = edge;
  levels[number] = HIGH;
}
void MockSerial::begin(unsigned long) {}
int MockSerial::available() { return static_cast<int>(serialIn.size()); }
int MockSerial::read() {
  const int code = serialIn.front();
  serialIn.pop_front();
  return code;
}
size_t MockSerial::write(uint8_t byte) {
  std::printf("%lu B %d\n", ms(), byte);
  return 1;
}

#if VESTIBULE_EXPANDER
namespace core {
const Expander EXPANDER = {
    [](uint8_t pin, bool level) {
      digitalWrite(static_cast<uint8_t>(100 + pin), level);
      pinMode(static_cast<uint8_t>(100 + pin), OUTPUT);
    },
    [](uint8_t pin, bool) { pinMode(static_cast<uint8_t>(100 + pin), INPUT); },
    [](uint8_t pin, bool level) { digitalWrite(static_cast<uint8_t>(100 + pin), level); },
    [](uint8_t pin) { return digitalRead(static_cast<uint8_t>(100 + pin)) == HIGH; },
};
}  // namespace core
#endif

struct Event {
  uint64_t t;
  std::string what, rest;
};

int main() {
  std::memset(memory, 0xff, sizeof memory);
  for (int pin = 0; pin < 256; pin++) modes[pin] = INPUT;
  std::vector<Event> events;
  std::string line;
  while (std::getline(std::cin, line)) {
    std::istringstream words(line);
    Event event;
    if (!(words >> event.t >> event.what)) return 2;
    std::getline(words, event.rest);
    events.push_back(event);
  }
  size_t next = 0;
  const auto applyAll = [&](uint64_t t) {
    for (; next < events.size() && events[next].t == t; next++) {
      std::istringstream words(events[next].rest);
      apply(words, events[next].what);
    }
  };
  // what stands at nought is how the contacts stand before the power comes
  applyAll(0);
  core::controllerSetup(network, STORE);
  const uint64_t end = events.empty() ? 0 : events.back().t;
  for (uint64_t t = 1; t <= end; t++) {
    runTo(t * 1000);
    applyAll(t);
    core::controllerLoop();
  }
  return 0;
}
