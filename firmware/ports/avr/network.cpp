// The one link of this board, over a modem on its serial port: MQTT by the wire's tables, and now and then a line of
// the log that says how the modem stands.
#ifdef VESTIBULE_MODEM

#include "board.h"
#include "modem.h"
#include "modem_image.h"
#include "text.h"
#include "transports.h"
#include "wires_memory.h"

namespace board {

namespace {

using namespace vestibule;
using namespace vestibule::wires;

static_assert(wires_image::LINK_COUNT == 1, "a modem keeps one connection: the house's broker or one service");

/// A message that is longer is passed over.
constexpr uint16_t IN_BYTES = modem_image::IN_BYTES;
constexpr uint16_t OUT_BYTES = modem_image::OUT_BYTES;
/// Without bytes the network is looked at so often: for what is due by itself, ms.
constexpr uint8_t EVERY_MS = 16;
constexpr uint32_t TELLS_MS = 3600000;
constexpr uint32_t DAY_MS = 86400000;
/// Beyond the day's bytes reports go out no more often than that; what changes meanwhile goes as it stands then.
constexpr uint32_t THRIFTY_MS = 60000;

modem::Modem theModem;
uint8_t in[IN_BYTES];
uint8_t out[OUT_BYTES];
uint32_t tellsAt;
uint32_t dayBegan;
uint32_t bytesAtDay;
uint32_t lastTurnAt;
bool hasWaited;

bool readLine(void*, char& character) { return serialRead(character); }
bool writeLine(void*, char character) { return serialWrite(character); }
bool joined(void*) { return modem::isJoined(theModem); }
// nobody could read it: the only serial port is the modem's
void note(void*, uint8_t, Words) {}

}  // namespace

}  // namespace board

// named by the transports, which call these functions directly
constexpr vestibule::wires::Ground vestibule::wires::memory::GROUND = {nullptr, board::joined, board::note};
constexpr vestibule::wires::Socket vestibule::mqtt::memory::SOCKET = {&board::theModem,        vestibule::modem::open,
                                                                      vestibule::modem::state, vestibule::modem::read,
                                                                      vestibule::modem::write, vestibule::modem::close};
vestibule::wires::Line vestibule::wires::memory::lines[1];

namespace board {

namespace {

Transports& transports = wires::memory::transports;
Line& theLine = wires::memory::lines[0];
Engine& engine = wires::memory::engine;

bool isOverBudget() {
  if (transports.now - dayBegan >= DAY_MS) {
    dayBegan += DAY_MS;
    bytesAtDay = theModem.bytes;
  }
  return modem_image::BYTES_A_DAY != 0 && theModem.bytes - bytesAtDay > modem_image::BYTES_A_DAY;
}

bool fits() {
  if (theLine.mqtt.outSize - theLine.mqtt.outUsed < static_cast<uint16_t>(modem_image::LONGEST_TURN)) return false;
  return !isOverBudget() || transports.now - lastTurnAt >= THRIFTY_MS;
}

/// "modem: signal 17 of 31, at home, restarts 0, 12345 bytes"
void tellModem() {
  char topic[VESTIBULE_LONGEST_TOPIC];
  Text where = {topic, sizeof topic};
  append(where, engine.tables->prefix);
  append(where, WORDS("log"));
  char payload[72];
  Text what = {payload, sizeof payload};
  append(what, WORDS("modem: signal "));
  if (theModem.signal == modem::NO_SIGNAL) {
    append(what, WORDS("unknown"));
  } else {
    appendNumber(what, theModem.signal);
    append(what, WORDS(" of 31"));
  }
  append(what, theModem.registration == 5 ? WORDS(", abroad") : WORDS(", at home"));
  append(what, WORDS(", restarts "));
  appendNumber(what, theModem.restarts);
  append(what, WORDS(", bytes "));
  appendNumber(what, theModem.bytes);
  says(engine, transports.now, 0, topic, payload, false);
}

}  // namespace

__attribute__((noinline)) void startNetwork() {
  startSerial(modem_image::BAUD);
  modem::prepare(theModem, modem_image::DIALOGUE, modem::SerialLine{nullptr, readLine, writeLine}, 0);
  const Buffers buffers = {in, IN_BYTES, out, OUT_BYTES};
  prepare(transports, 1, &buffers);
  wires::memory::prepared();
  wires::begin(transports, engine);
}

bool networkStirs(uint32_t now) {
  modem::pass(theModem, now);
  return serialStirs() || now % EVERY_MS == 0;
}

void networkBefore(uint32_t now) { wires::pass(transports, now); }

void networkAfter(uint32_t now) {
  transports.now = now;
  mqtt::flush(theLine.mqtt, now);
  if (!theLine.isUp) {
    tellsAt = now;
    return;
  }
  if (static_cast<int32_t>(now - tellsAt) < 0 || engine.device->links[0].announce || !fits()) return;
  tellsAt = now + TELLS_MS;
  tellModem();
}

bool networkHasRoomAgain() { return hasWaited && fits(); }

void publish(void*, uint8_t link, const char* topic, const char* payload, bool retain) {
  says(engine, transports.now, link, topic, payload, retain);
}
void subscribe(void*, uint8_t link, const char* topic) { subscribes(engine, link, topic); }
void join(void*, uint8_t link) { joins(engine, transports.now, link); }

// One turn a pass, so that no pass is long.
bool hasRoom(void*, uint8_t) {
  hasWaited = lastTurnAt == transports.now || !fits();
  if (!hasWaited) lastTurnAt = transports.now;
  return !hasWaited;
}

}  // namespace board

#endif
