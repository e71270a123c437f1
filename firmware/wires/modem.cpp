#include "modem.h"

namespace vestibule {
namespace modem {

namespace {

using wires::Connection;

/// What was refused or not there yet is asked again after that (common practice).
constexpr uint32_t AGAIN_MS = 2000;
/// A connection may take so long to stand.
constexpr uint32_t OPENS_MS = 30000;
constexpr uint32_t PROMPT_MS = 5000;
constexpr uint32_t SENT_MS = 30000;
constexpr uint32_t CLOSES_MS = 10000;
constexpr uint32_t ANSWER_MS = 5000;
constexpr uint32_t SIGNAL_MS = 600000;
/// A modem that cannot connect that often in a row is started anew.
constexpr uint8_t MOST_FAILURES = 3;
/// What is counted for a piece besides its bytes: its IP and TCP headers and those of its acknowledgement (RFC
/// 791, 3.1; RFC 9293, 3.1), and for a connection seven segments without bytes, four to end it.
constexpr uint8_t PIECE_BYTES = 2 * (20 + 20);
constexpr uint16_t CONNECTION_BYTES = 7 * (20 + 20);
constexpr uint8_t AT_HOME = 1;
constexpr uint8_t ABROAD = 5;

Step stepOf(const Modem& modem) { return row(modem.dialogue->steps + modem.step); }

// ---- saying: a text of the tables, with what stands in for its places, as the line takes it ----

void says(Modem& modem, Words words, Asked asked, bool endsLine = true) {
  modem.saying = words;
  modem.inner = nullptr;
  modem.digit = nullptr;
  modem.endsLine = endsLine;
  modem.asked = asked;
  modem.isAwaited = true;
  modem.askedAt = modem.now;
}

void spell(Modem& modem, uint16_t number) {
  char* at = modem.digits + sizeof modem.digits - 1;
  *at = '\0';
  do {
    *--at = static_cast<char>('0' + number % 10);
    number = static_cast<uint16_t>(number / 10);
  } while (number != 0);
  modem.digit = at;
}

// The next character to be said, without taking it; false: everything is said.
bool nextSaid(Modem& modem, char& character) {
  for (;;) {
    if (modem.digit != nullptr) {
      if ((character = *modem.digit) != '\0') return true;
      modem.digit = nullptr;
    }
    if (modem.inner != nullptr) {
      if ((character = charAt(modem.inner)) != '\0') return true;
      modem.inner = nullptr;
    }
    character = charAt(modem.saying);
    if (character == ADDRESS) {
      modem.inner = modem.address;
    } else if (character == PORT || character == LENGTH) {
      spell(modem, character == PORT ? modem.port : modem.sendLeft);
    } else if (character == '\0') {
      character = '\r';  // V.250, 5.2.1: ends a command line
      return modem.endsLine;
    } else {
      return true;
    }
    modem.saying++;
  }
}

void taken(Modem& modem) {
  if (modem.digit != nullptr) {
    modem.digit++;
  } else if (modem.inner != nullptr) {
    modem.inner++;
  } else if (charAt(modem.saying) == '\0') {
    modem.endsLine = false;
  } else {
    modem.saying++;
  }
}

void writes(Modem& modem) {
  char character;
  while (modem.saying != nullptr) {
    if (!nextSaid(modem, character)) {
      modem.saying = nullptr;
      modem.askedAt = modem.now;
    } else if (modem.line.write(modem.line.context, character)) {
      taken(modem);
    } else {
      return;
    }
  }
}

// ---- what becomes of an answer ----

void nothingAsked(Modem& modem) {
  modem.asked = Asked::nothing;
  modem.isAwaited = false;
}

void beginsStep(Modem& modem, uint8_t step) {
  modem.step = step;
  while (modem.step < modem.dialogue->stepCount && stepOf(modem).isLeftOut) modem.step++;
  modem.stepBeganAt = modem.now;
  modem.againAt = modem.now;
  nothingAsked(modem);
  if (modem.step == modem.dialogue->stepCount) modem.stage = Stage::ready;
}

void startsAnew(Modem& modem) {
  modem.restarts++;
  modem.failures = 0;
  modem.isWanted = false;
  modem.isUnwanted = false;
  modem.stage = Stage::joining;
  modem.registration = 0;
  modem.signal = NO_SIGNAL;
  modem.dataLeft = 0;
  says(modem, modem.dialogue->restart, Asked::restart);
}

void asksAgain(Modem& modem) {
  nothingAsked(modem);
  modem.againAt = modem.now + AGAIN_MS;
  if (modem.now - modem.stepBeganAt >= static_cast<uint32_t>(stepOf(modem).patienceS) * 1000) startsAnew(modem);
}

void isClosed(Modem& modem) {
  modem.stage = Stage::ready;
  modem.dataLeft = 0;
  modem.isUnwanted = false;
  // what is still being written would be read as a command's beginning: its end makes it one that is refused
  if (modem.saying == nullptr) nothingAsked(modem);
}

void couldNotOpen(Modem& modem) {
  isClosed(modem);
  nothingAsked(modem);
  if (++modem.failures >= MOST_FAILURES) startsAnew(modem);
}

bool begins(const Modem& modem, Words words) {
  if (words == nullptr || charAt(words) == '\0') return false;
  const char* at = modem.heard;
  for (char c = charAt(words); c != '\0'; c = charAt(++words)) {
    if (*at++ != c) return false;
  }
  return true;
}

bool isDigit(char c) { return c >= '0' && c <= '9'; }

// The number at a place of the line, counted from 0; 0 where there is none.
uint16_t numberAt(const Modem& modem, uint8_t place, uint8_t& count) {
  uint16_t found = 0;
  count = 0;
  for (const char* at = modem.heard; *at != '\0';) {
    if (!isDigit(*at)) {
      at++;
      continue;
    }
    uint16_t number = 0;
    for (; isDigit(*at); at++) number = static_cast<uint16_t>(number * 10 + (*at - '0'));
    if (count++ == place) found = number;
  }
  return found;
}

// 3GPP TS 27.007, 7.2: "+CREG: <n>,<stat>" is the answer, "+CREG: <stat>" says of itself that it has changed.
bool isRegistered(Modem& modem) {
  uint8_t count;
  const uint16_t first = numberAt(modem, 0, count);
  const uint16_t state = count > 1 ? numberAt(modem, 1, count) : first;
  modem.registration = static_cast<uint8_t>(state);
  return state == AT_HOME || state == ABROAD;
}

// 3GPP TS 27.007, 8.5: "+CSQ: <rssi>,<ber>"
void readsSignal(Modem& modem) {
  uint8_t count;
  modem.signal = static_cast<uint8_t>(numberAt(modem, 0, count));
  modem.signalAt = modem.now;
}

// V.250, 5.7.1 and 3GPP TS 27.007, 9.1 and 9.2
bool isOk(const Modem& modem) { return begins(modem, WORDS("OK")); }
bool isError(const Modem& modem) {
  return begins(modem, WORDS("ERROR")) || begins(modem, WORDS("+CME ERROR")) || begins(modem, WORDS("NO CARRIER"));
}

void hearsOfStep(Modem& modem) {
  const Step step = stepOf(modem);
  if (begins(modem, step.answer)) {
    modem.answered = step.reads != Reads::registration || isRegistered(modem);
    if (step.reads == Reads::signal) readsSignal(modem);
  } else if (isOk(modem)) {
    if (step.answer != nullptr && !modem.answered) return asksAgain(modem);
    beginsStep(modem, static_cast<uint8_t>(modem.step + 1));
  } else if (isError(modem)) {
    asksAgain(modem);
  }
}

// Nobody knows what of them has gone: the connection ends.
void refusesBytes(Modem& modem) {
  modem.isUnwanted = modem.stage == Stage::open;
  nothingAsked(modem);
}

void hearsOfConnection(Modem& modem) {
  switch (modem.asked) {
    case Asked::signal:
      if (begins(modem, modem.dialogue->signalAnswer)) readsSignal(modem);
      if (isOk(modem) || isError(modem)) nothingAsked(modem);
      return;
    case Asked::open:
      if (begins(modem, modem.dialogue->opened)) {
        modem.stage = Stage::open;
        modem.failures = 0;
        modem.bytes += CONNECTION_BYTES;
        return nothingAsked(modem);
      }
      if (isError(modem)) couldNotOpen(modem);
      return;
    case Asked::prompt:
    case Asked::bytes:
      if (isError(modem)) refusesBytes(modem);
      return;
    case Asked::sent:
      if (isError(modem)) return refusesBytes(modem);
      if (begins(modem, modem.dialogue->sent)) nothingAsked(modem);
      return;
    case Asked::close:
      if (isOk(modem) || isError(modem)) isClosed(modem);
      return;
    default: return;
  }
}

// A whole line stands in `heard`.
void hearsLine(Modem& modem) {
  if (begins(modem, modem.dialogue->arrives)) {
    uint8_t count;
    numberAt(modem, 0, count);
    if (count > 0 && modem.stage >= Stage::open) {
      modem.dataLeft = numberAt(modem, static_cast<uint8_t>(count - 1), count);
      modem.bytes += PIECE_BYTES;
    }
    return;
  }
  if (modem.asked == Asked::restart) {
    if (isOk(modem) || isError(modem)) beginsStep(modem, 0);
    return;
  }
  if (modem.stage == Stage::joining) {
    if (modem.asked == Asked::step) hearsOfStep(modem);
    return;
  }
  if (begins(modem, modem.dialogue->closed) && modem.stage != Stage::ready) {
    if (modem.stage == Stage::opening) return couldNotOpen(modem);
    return isClosed(modem);
  }
  hearsOfConnection(modem);
}

void takes(Modem& modem, char character) {
  // V.250, 5.7.1: a line has its end before and behind it, and only its last character ends it, since bytes may follow
  if (character == '\r') return;
  if (character == '\n') {
    if (modem.heardLength > 0) hearsLine(modem);
    modem.heardLength = 0;
    modem.heard[0] = '\0';
    return;
  }
  if (modem.heardLength == 0 && character == ' ') return;
  // of a line that is longer the beginning counts
  if (modem.heardLength + 1 < LONGEST_LINE) modem.heard[modem.heardLength++] = character;
  modem.heard[modem.heardLength] = '\0';
  if (modem.asked != Asked::prompt || modem.saying != nullptr || !begins(modem, modem.dialogue->prompt)) return;
  modem.asked = Asked::bytes;
  modem.askedAt = modem.now;
  modem.heardLength = 0;
  modem.heard[0] = '\0';
}

// ---- time ----

uint32_t patienceOf(const Modem& modem) {
  switch (modem.asked) {
    case Asked::step: return static_cast<uint32_t>(stepOf(modem).answerS) * 1000;
    case Asked::open: return OPENS_MS;
    case Asked::prompt:
    case Asked::bytes: return PROMPT_MS;
    case Asked::sent: return SENT_MS;
    case Asked::close: return CLOSES_MS;
    default: return ANSWER_MS;
  }
}

void noAnswer(Modem& modem) {
  switch (modem.asked) {
    case Asked::step: return asksAgain(modem);
    case Asked::restart: return beginsStep(modem, 0);
    case Asked::open: return couldNotOpen(modem);
    // a modem that is silent beside a connection has lost it
    default: return startsAnew(modem);
  }
}

// Nothing is asked: what is next?
void goesOn(Modem& modem) {
  if (modem.stage == Stage::joining) {
    if (static_cast<int32_t>(modem.now - modem.againAt) < 0) return;
    modem.answered = false;
    return says(modem, stepOf(modem).says, Asked::step);
  }
  if (modem.stage == Stage::open && modem.isUnwanted && modem.dataLeft == 0) {
    modem.stage = Stage::closing;
    return says(modem, modem.dialogue->close, Asked::close);
  }
  if (modem.stage == Stage::ready && modem.isWanted) {
    modem.isWanted = false;
    modem.stage = Stage::opening;
    return says(modem, modem.dialogue->open, Asked::open);
  }
  if (modem.now - modem.signalAt < SIGNAL_MS) return;
  modem.signalAt = modem.now;
  says(modem, modem.dialogue->signal, Asked::signal);
}

// The modem waits for bytes that nobody has any more: noughts end its waiting, and the connection is closed next.
void fillsUp(Modem& modem) {
  while (modem.sendLeft > 0 && modem.line.write(modem.line.context, '\0')) modem.sendLeft--;
  if (modem.sendLeft == 0) modem.asked = Asked::sent;
}

}  // namespace

void prepare(Modem& modem, const Dialogue& dialogue, const SerialLine& line, uint32_t nowMs) {
  modem = Modem();
  modem.dialogue = &dialogue;
  modem.line = line;
  modem.signal = NO_SIGNAL;
  modem.now = nowMs;
  beginsStep(modem, 0);
}

void pass(Modem& modem, uint32_t nowMs) {
  modem.now = nowMs;
  writes(modem);
  // an open connection is read by whoever has it
  char character;
  while ((modem.stage != Stage::open || modem.isUnwanted) && modem.line.read(modem.line.context, character)) {
    if (modem.dataLeft > 0) {
      modem.dataLeft--;
    } else {
      takes(modem, character);
    }
  }
  if (modem.asked == Asked::bytes && (modem.isUnwanted || modem.stage != Stage::open)) fillsUp(modem);
  if (!modem.isAwaited) return goesOn(modem);
  if (modem.saying == nullptr && nowMs - modem.askedAt >= patienceOf(modem)) noAnswer(modem);
}

// ---- the socket ----

bool open(void* context, Words address, uint16_t port, bool tls) {
  Modem& modem = *static_cast<Modem*>(context);
  if (tls || modem.stage == Stage::joining) return false;
  modem.address = address;
  modem.port = port;
  modem.isWanted = true;
  modem.isUnwanted = modem.stage != Stage::ready;
  return true;
}

wires::Connection state(void* context) {
  const Modem& modem = *static_cast<Modem*>(context);
  if (modem.stage == Stage::joining) return Connection::closed;
  if (modem.isWanted || modem.stage == Stage::opening) return Connection::opening;
  return modem.stage == Stage::open && !modem.isUnwanted ? Connection::open : Connection::closed;
}

size_t read(void* context, uint8_t* buffer, size_t size) {
  Modem& modem = *static_cast<Modem*>(context);
  size_t got = 0;
  char character;
  while (got < size && modem.line.read(modem.line.context, character)) {
    if (modem.dataLeft == 0) {
      takes(modem, character);
      continue;
    }
    modem.dataLeft--;
    modem.bytes++;
    if (!modem.isUnwanted) buffer[got++] = static_cast<uint8_t>(character);
  }
  return got;
}

size_t write(void* context, const uint8_t* bytes, size_t size) {
  Modem& modem = *static_cast<Modem*>(context);
  if (modem.stage != Stage::open || modem.isUnwanted || size == 0) return 0;
  if (modem.asked == Asked::nothing) {
    modem.sendLeft = size < modem.dialogue->mostBytes ? static_cast<uint16_t>(size) : modem.dialogue->mostBytes;
    says(modem, modem.dialogue->send, Asked::prompt);
    return 0;
  }
  if (modem.asked != Asked::bytes) return 0;
  size_t taken = 0;
  while (taken < size && modem.sendLeft > 0 && modem.line.write(modem.line.context, static_cast<char>(bytes[taken]))) {
    taken++;
    modem.sendLeft--;
    modem.bytes++;
  }
  if (taken > 0) modem.askedAt = modem.now;
  if (modem.sendLeft == 0) {
    modem.asked = Asked::sent;
    modem.bytes += PIECE_BYTES;
  }
  return taken;
}

void close(void* context) {
  Modem& modem = *static_cast<Modem*>(context);
  modem.isWanted = false;
  modem.isUnwanted = modem.stage == Stage::open || modem.stage == Stage::opening;
}

}  // namespace modem
}  // namespace vestibule
