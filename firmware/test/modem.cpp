// The modem's dialogue against a modem that says anything: for a while whatever comes is random (whole lines, halves,
// bytes, silence), then it behaves. Run under the sanitizers: memory is never left, and once the modem behaves the
// connection stands again and bytes pass both ways unchanged. Time is our own, a millisecond a pass.
#include "modem.h"

#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <deque>
#include <string>

namespace {

using namespace vestibule;
using wires::Connection;

uint32_t state = 1;
uint32_t random32() {
  state ^= state << 13;
  state ^= state >> 17;
  state ^= state << 5;
  return state;
}
uint32_t below(uint32_t most) { return random32() % most; }

std::deque<char> toBoard;
std::string toModem;

const modem::Step STEPS[] = {
    {"AT", nullptr, modem::Reads::nothing, 1, 30, false},
    {"AT+CPIN?", "+CPIN: READY", modem::Reads::nothing, 5, 30, false},
    {"AT+CSQ", "+CSQ:", modem::Reads::signal, 5, 30, false},
    {"AT+CREG?", "+CREG:", modem::Reads::registration, 5, 60, false},
    {"AT+LEFT", nullptr, modem::Reads::nothing, 5, 30, true},
    {"AT+CGACT=1,1", nullptr, modem::Reads::nothing, 75, 150, false},
};
const modem::Dialogue DIALOGUE = {
    STEPS,        6,   "AT+CFUN=1,1", "AT+CSQ", "+CSQ:",    "AT+OPEN=\"\1\",\2", "+OPENED",
    "AT+SEND=\3", ">", "+SENT",       "+DATA:", "AT+CLOSE", "+CLOSED",           48};

/// The modem as it should be, with the far end of its connection.
struct Behaved {
  bool open = false;
  size_t wanted = 0;
  std::string line;
  std::string sent;

  static void says(const char* text) {
    for (const char* c = "\r\n"; *c; c++) toBoard.push_back(*c);
    for (; *text; text++) toBoard.push_back(*text);
    for (const char* c = "\r\n"; *c; c++) toBoard.push_back(*c);
  }
  void takes(char c) {
    if (wanted > 0) {
      sent += c;
      if (--wanted == 0) says("+SENT");
      return;
    }
    if (c != '\r') {
      line += c;
      return;
    }
    const std::string said = line;
    line.clear();
    if (said == "AT+OPEN=\"far.invalid\",18901" && !open) {
      open = true;
      return says("+OPENED");
    }
    if (said.compare(0, 8, "AT+SEND=") == 0 && open) {
      wanted = static_cast<size_t>(atoi(said.c_str() + 8));
      sent.clear();
      toBoard.push_back('>');
      return;
    }
    if (said == "AT+CLOSE" && open) {
      open = false;
      return says("+CLOSED");
    }
    if (said == "AT+CFUN=1,1") open = false;
    if (said == "AT+CPIN?") says("+CPIN: READY");
    if (said == "AT+CSQ") says("+CSQ: 12,99");
    if (said == "AT+CREG?") says("+CREG: 0,5");
    const bool known = said.compare(0, 2, "AT") == 0 && said.find("OPEN") == std::string::npos &&
                       said.find("SEND") == std::string::npos && said.find("CLOSE") == std::string::npos &&
                       said.find("LEFT") == std::string::npos;
    says(known ? "OK" : "ERROR");
  }
  void arrives(const std::string& bytes) {
    says(("+DATA: " + std::to_string(bytes.size())).c_str());
    for (const char c : bytes) toBoard.push_back(c);
  }
};

const char* const SAID[] = {
    "OK",          "ERROR",    "NO CARRIER",     "+CPIN: READY",
    "+CSQ: 99,99", "+CREG: 2", "+CREG: 0,1",     "+OPENED",
    "+CLOSED",     "+SENT",    "+DATA: 3",       "+DATA: 65535",
    "+DATA:",      ">",        "+CME ERROR: 10", "0000000000000000000000000000000000000000000000000000000000000"};

// Anything: a line, a piece of one, bytes, or nothing.
void raves() {
  switch (below(4)) {
    case 0: Behaved::says(SAID[below(sizeof SAID / sizeof *SAID)]); return;
    case 1:
      for (uint32_t i = below(20); i > 0; i--) toBoard.push_back(static_cast<char>(random32()));
      return;
    case 2:
      for (const char* c = SAID[below(sizeof SAID / sizeof *SAID)]; *c && below(6) != 0; c++) toBoard.push_back(*c);
      return;
    default: return;
  }
}

const modem::SerialLine LINE = {nullptr,
                                [](void*, char& c) {
                                  if (toBoard.empty()) return false;
                                  c = toBoard.front();
                                  toBoard.pop_front();
                                  return true;
                                },
                                [](void*, char c) {
                                  if (below(3) == 0) return false;
                                  toModem += c;
                                  return true;
                                }};

int fails(const char* what, uint32_t seed) {
  std::printf("seed %u: %s\n", seed, what);
  return 1;
}

/// The caller: keeps a connection, and sends one text at a time.
struct Caller {
  modem::Modem* own = nullptr;
  std::string text;
  size_t at = 0;
  std::string heard;
  void pass() {
    const Connection now = modem::state(own);
    if (now == Connection::closed && modem::isJoined(*own)) modem::open(own, "far.invalid", 18901, false);
    if (now != Connection::open) {
      at = 0;
      return;
    }
    uint8_t buffer[16];
    for (size_t size = modem::read(own, buffer, sizeof buffer); size > 0;
         size = modem::read(own, buffer, sizeof buffer))
      heard.append(reinterpret_cast<char*>(buffer), size);
    if (at < text.size()) at += modem::write(own, reinterpret_cast<const uint8_t*>(text.data()) + at, text.size() - at);
  }
};

int plays(uint32_t seed) {
  state = seed * 2654435761u | 1u;
  toBoard.clear();
  toModem.clear();
  modem::Modem own;
  uint32_t now = below(2) == 0 ? 0 : 0xffffff00u;  // the clock may wrap on the way
  modem::prepare(own, DIALOGUE, LINE, now);
  Caller caller;
  caller.own = &own;
  caller.text = std::string(10 + below(100), 'x');
  Behaved behaved;
  const uint32_t raving = 2000 + below(60000);
  for (uint32_t t = 0; t < raving; t++) {
    modem::pass(own, ++now);
    caller.pass();
    if (below(4000) == 0) modem::close(&own);
    if (below(5) == 0 && behaved.open) behaved.open = below(50) != 0;
    // half of the time it does what it should, so that all places of the dialogue are reached
    if (below(2) == 0) {
      for (const char c : toModem) behaved.takes(c);
    } else if (below(40) == 0) {
      raves();
    }
    toModem.clear();
  }
  // from here on it behaves; what it was told before is over, and it forgets what it was in the middle of
  toBoard.clear();
  behaved = Behaved();
  for (uint32_t t = 0; t < 600000; t++) {
    modem::pass(own, ++now);
    caller.pass();
    for (const char c : toModem) behaved.takes(c);
    toModem.clear();
    if (behaved.open && modem::state(&own) == Connection::open && own.asked == modem::Asked::nothing &&
        caller.at == caller.text.size())
      break;
  }
  if (modem::state(&own) != Connection::open) return fails("no connection ten minutes after all is well", seed);
  // both ways, whatever the bytes look like
  caller.text.clear();
  for (uint32_t i = 200; i > 0; i--) caller.text += static_cast<char>(below(4) == 0 ? "\r\n>+"[below(4)] : random32());
  caller.at = 0;
  caller.heard.clear();
  std::string said = "\r\nOK\r\n+CLOSED\r\n> +DATA: 9\r\n";
  for (uint32_t i = below(200); i > 0; i--) said += static_cast<char>(random32());
  behaved.arrives(said);
  std::string got;
  for (uint32_t t = 0; t < 60000 && (got.size() < caller.text.size() || caller.heard.size() < said.size()); t++) {
    modem::pass(own, ++now);
    caller.pass();
    for (const char c : toModem) {
      const size_t before = behaved.wanted;
      behaved.takes(c);
      if (before > 0) got += c;
    }
    toModem.clear();
  }
  if (got != caller.text) return fails("what was sent has not arrived as it was", seed);
  if (caller.heard != said) return fails("what came was not heard as it was", seed);
  // what was said while it raved may still stand
  return own.registration == 1 || own.registration == 5 ? 0 : fails("it is joined and not registered", seed);
}

}  // namespace

int main(int count, char** words) {
  const uint32_t seeds = count > 1 ? static_cast<uint32_t>(atoi(words[1])) : 100;
  for (uint32_t seed = 1; seed <= seeds; seed++) {
    if (plays(seed) != 0) return 1;
  }
  std::printf("%u dialogues end well\n", seeds);
  return 0;
}
