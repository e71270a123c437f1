// The controller on the 8-bit board: prepares pins, clock and store; then each millisecond a pass of the runtime.
#include <avr/io.h>
#include <avr/wdt.h>

#include "board.h"
#include "memory.h"
#include "sizes.h"

namespace {

using namespace vestibule;
using memory::atLeastOne;
using memory::device;

uint8_t lastLevels[atLeastOne(image::INPUT_COUNT)];
volatile bool storeWaits;
uint32_t now;
bool begun;
/// A frame that the main loop has decoded, for the next pass to take.
Frame heard;
volatile bool hasHeard;

const Memory STORE = {nullptr, board::storeRead, board::storeWrite};

void output(void*, uint8_t channel, uint8_t contact, bool, bool level) {
  const uint8_t first = row(&memory::TABLES.channels[channel].firstOutput);
  board::drive(row(memory::TABLES.outputPins + first + contact), level);
}
void store(void*) { storeWaits = true; }
void lineWaits(void*) { board::serialSaysLine(); }
void credentials(void*, bool) {}

}  // namespace

// named by the runtime, which calls these functions directly
#ifdef VESTIBULE_MODEM
constexpr vestibule::Port vestibule::memory::PORT = {nullptr,     output,        board::publish, board::subscribe,
                                                     board::join, store,         lineWaits,      nullptr,
                                                     credentials, board::hasRoom};
#else
constexpr vestibule::Port vestibule::memory::PORT = {nullptr, output,    nullptr, nullptr,     nullptr,
                                                     store,   lineWaits, nullptr, credentials, nullptr};
#endif

namespace {

void makePins() {
  // the comparator on D6 and D7 is not used, and draws current
  ACSR = static_cast<uint8_t>(1u << ACD);
  for (uint8_t i = 0; i < memory::TABLES.channelCount; i++) {
    const Channel& table = row(memory::TABLES.channels + i);
    for (uint8_t contact = 0; contact < table.contacts; contact++)
      board::makeOutput(row(memory::TABLES.outputPins + table.firstOutput + contact), table.activeLow);
  }
  for (uint8_t i = 0; i < memory::TABLES.inputCount; i++) {
    const Input& table = row(memory::TABLES.inputs + i);
    for (uint8_t bit = 0; bit < table.pins; bit++) {
      const uint8_t pin = row(memory::TABLES.inputPins + table.firstPin + bit);
      board::makeInput(pin, table.pull == Pull::up);
      board::watch(pin);
    }
  }
}

// The runtime is only troubled in a millisecond in which something happens: the result is the same, and an idle pass is
// short.
void happen() {
  if (begun) return;
  begun = true;
  begin(device, now);
}

// Hands over the levels that differ from those of the pass before, or all of them.
void readLevels(bool all) {
  for (uint8_t i = 0; i < device.image->inputCount; i++) {
    const uint8_t pins = row(&memory::TABLES.inputs[i].pins);
    const uint8_t first = row(&memory::TABLES.inputs[i].firstPin);
    for (uint8_t bit = 0; bit < pins; bit++) {
      const uint8_t mask = static_cast<uint8_t>(1u << bit);
      const bool high = board::read(row(memory::TABLES.inputPins + first + bit));
      if (!all && high == ((lastLevels[i] & mask) != 0)) continue;
      happen();
      lastLevels[i] = static_cast<uint8_t>(high ? lastLevels[i] | mask : lastLevels[i] & ~mask);
      level(device, i, bit, high ? 1 : 0);
    }
  }
}

// apart, so that what it takes of the stack is given back
__attribute__((noinline)) void start() {
  makePins();
  memory::prepared();
  loadRecord(device, STORE);
  board::startSerial(image::BAUD);
#ifdef VESTIBULE_MODEM
  board::startNetwork();
#endif
  board::startReceiver();
  GPIOR0 = board::MARK_SAFE;
  // what happens at power-up happens at the instant nought, however long it takes
  happen();
  power(device, true);
  board::pinsMoved();
  readLevels(true);
  finish(device);
  board::startClock();
}

/// In the main loop.
void decodes(const uint16_t* durations, size_t count) {
  GPIOR1 = board::MARK_DECODES;
  size_t from = 0;
  const bool decoded = nextFrame(durations, count, from, heard);
  board::releaseFrame();
  GPIOR1 = 0;
  hasHeard = decoded;
}

// A pass may come in between and store anew: then what was put together is of two minds, and is put together again.
void saves() {
  storeWaits = false;
  saveRecord(device, STORE);
  board::storeGoes(storeWaits);
}

void passes() {
  now = board::milliseconds();
  begun = false;
  if (board::pinsMoved()) readLevels(false);
  if (hasHeard) {
    GPIOR0 = board::MARK_SAFE | board::MARK_CLOCK | board::MARK_PASS | board::MARK_FRAME;
    happen();
    frame(device, heard, false);
    hasHeard = false;
  }
#ifdef VESTIBULE_MODEM
  if (board::networkStirs(now)) {
    happen();
    board::networkBefore(now);
  }
  if (board::networkHasRoomAgain()) happen();
#else
  char read;
  while (board::serialRead(read)) {
    happen();
    character(device, read);
  }
#endif
  int32_t reading;
  for (uint8_t i = 0; i < device.image->sensorCount; i++) {
    if (!board::readSensor(i, now, reading)) continue;
    happen();
    sensor(device, i, reading);
  }
  // a line that had to wait for the one before it
  if (device.statusDue && device.line.part == LinePart::none && image::BAUD != 0) happen();
  uint32_t due;
  if (begun || (nextDeadline(device, due) && static_cast<int32_t>(due - now) <= 0)) {
    happen();
    finish(device);
  }
#ifdef VESTIBULE_MODEM
  board::networkAfter(now);
#endif
}

}  // namespace

namespace board {

void pass() {
  GPIOR0 = MARK_SAFE | MARK_CLOCK | MARK_PASS;
  passes();
  GPIOR0 = MARK_SAFE | MARK_CLOCK;
}

bool nextOfLine(char& character) { return lineCharacter(device, character); }

}  // namespace board

int main() {
  // the main loop is through every millisecond: whoever hangs for a quarter of a second is started anew, outputs safe
  wdt_enable(WDTO_250MS);
  start();
  for (;;) {
    wdt_reset();
    const uint16_t* durations;
    size_t count;
    if (image::RECEIVER_PIN != NO_PIN && device.image->keyCount != 0 && !hasHeard &&
        board::frameWaits(durations, count))
      decodes(durations, count);
    if (storeWaits && !board::storeIsBusy()) saves();
    board::rest();
  }
}
