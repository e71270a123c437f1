// The controller on the 8-bit board: prepares pins, clock and store, then takes a pass of the runtime each millisecond.
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
bool storeWaits;
uint32_t now;
bool begun;

const Memory STORE = {nullptr, board::storeRead, board::storeWrite};

void output(void*, uint8_t channel, uint8_t contact, bool, bool level) {
  const uint8_t first = row(&image::IMAGE.channels[channel].firstOutput);
  board::drive(row(image::IMAGE.outputPins + first + contact), level);
}
void store(void*) { storeWaits = true; }
void serialOut(void*, char character) { board::serialWrite(character); }
void credentials(void*, bool) {}

const Port PORT = {nullptr, output, nullptr, nullptr, nullptr, store, serialOut, credentials};

void makePins() {
  // the comparator on D6 and D7 is not used, and draws current
  ACSR = static_cast<uint8_t>(1u << ACD);
  for (uint8_t i = 0; i < image::IMAGE.channelCount; i++) {
    const Channel& table = row(image::IMAGE.channels + i);
    for (uint8_t contact = 0; contact < table.contacts; contact++) board::makeOutput(row(image::IMAGE.outputPins + table.firstOutput + contact), table.activeLow);
  }
  for (uint8_t i = 0; i < image::IMAGE.inputCount; i++) {
    const Input& table = row(image::IMAGE.inputs + i);
    for (uint8_t bit = 0; bit < table.pins; bit++) board::makeInput(row(image::IMAGE.inputPins + table.firstPin + bit), table.pull == Pull::up);
  }
}

// The runtime is only troubled in a millisecond in which something happens: the result is the same, and an idle pass is short.
void happen() {
  if (begun) return;
  begun = true;
  begin(device, now);
}

// Hands over the levels that differ from those of the pass before, or all of them.
void readLevels(bool all) {
  for (uint8_t i = 0; i < device.image->inputCount; i++) {
    const uint8_t pins = row(&image::IMAGE.inputs[i].pins);
    const uint8_t first = row(&image::IMAGE.inputs[i].firstPin);
    for (uint8_t bit = 0; bit < pins; bit++) {
      const uint8_t mask = static_cast<uint8_t>(1u << bit);
      const bool high = board::read(row(image::IMAGE.inputPins + first + bit));
      if (!all && high == ((lastLevels[i] & mask) != 0)) continue;
      happen();
      lastLevels[i] = static_cast<uint8_t>(high ? lastLevels[i] | mask : lastLevels[i] & ~mask);
      level(device, i, bit, high ? 1 : 0);
    }
  }
}

void start() {
  makePins();
  vestibule::memory::prepared(PORT);
  loadRecord(device, STORE);
  board::startSerial(image::BAUD);
  board::startReceiver();
  GPIOR0 = board::MARK_SAFE;
  // what happens at power-up happens at the instant nought, however long it takes
  happen();
  power(device, true);
  readLevels(true);
  finish(device);
  board::startClock();
}

void pass() {
  const uint16_t* durations;
  size_t count;
  Frame heard;
  bool hasHeard = false;
  // Decoding takes longer than a millisecond: the time is asked afterwards.
  if (image::RECEIVER_PIN != NO_PIN && image::IMAGE.keyCount != 0 && board::frameWaits(durations, count)) {
    size_t from = 0;
    hasHeard = nextFrame(durations, count, from, heard);
    board::releaseFrame();
  }
  now = board::milliseconds();
  begun = false;
  readLevels(false);
  if (hasHeard) {
    GPIOR0 = board::MARK_SAFE | board::MARK_CLOCK | board::MARK_PASS | board::MARK_FRAME;
    happen();
    frame(device, heard, false);
  }
  char read;
  while (board::serialRead(read)) {
    happen();
    character(device, read);
  }
  int32_t reading;
  for (uint8_t i = 0; i < device.image->sensorCount; i++) {
    if (!board::readSensor(i, now, reading)) continue;
    happen();
    sensor(device, i, reading);
  }
  if (board::serialOwesLine()) {
    happen();
    device.statusDue = true;
  }
  uint32_t due;
  if (begun || (nextDeadline(device, due) && static_cast<int32_t>(due - now) <= 0)) {
    happen();
    finish(device);
  } else if (storeWaits && !board::storeIsBusy()) {
    // a pass with nothing else to do
    storeWaits = false;
    saveRecord(device, STORE);
  }
}

}  // namespace

int main() {
  // a pass takes well under a millisecond: whoever hangs for a quarter of a second is started anew, outputs safe
  wdt_enable(WDTO_250MS);
  start();
  for (;;) {
    board::awaitTick();
    GPIOR0 = board::MARK_SAFE | board::MARK_CLOCK | board::MARK_PASS;
    wdt_reset();
    pass();
    GPIOR0 = board::MARK_SAFE | board::MARK_CLOCK;
  }
}
