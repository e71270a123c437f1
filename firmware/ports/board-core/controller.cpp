#include "settings.h"

#include VESTIBULE_CORE_HEADER

#include "controller.h"
#include "memory.h"

namespace core {

namespace {

using namespace vestibule;
using memory::atLeastOne;
using memory::device;

constexpr bool EXPANDED = VESTIBULE_EXPANDER != 0;
static_assert(!image::HAS_EXPANDER || EXPANDED,
              "channels or inputs hang on an expander: define core::EXPANDER in your sketch, and VESTIBULE_EXPANDER as "
              "1 in settings.h");
/// Longer than any space within a frame (the runtime's FRAME_GAP_US), µs.
constexpr uint32_t FRAME_ENDS_US = 6000;
constexpr uint16_t LONGEST_US = 65535;
constexpr unsigned long LOG_BAUD = 115200;

uint8_t lastLevels[atLeastOne(image::INPUT_COUNT)];
Network* network = nullptr;
Store store = {
    nullptr,
    nullptr,
    nullptr,
};
bool storeWaits = false;

constexpr bool MIRRORS = VESTIBULE_COPROCESSOR != 0;
/// Of a coprocessor: the main board's line as far as it has come; one that is too long is of other tables.
char heard[MIRRORS ? image::STATUS_BYTES : 1];
size_t heardLength = 0;

uint16_t durations[VESTIBULE_MOST_DURATIONS];
volatile uint8_t durationCount = 0;
volatile uint32_t lastEdgeUs = 0;

constexpr bool TOLD = image::TOLD_RELAYS > 0;
bool isTold(uint8_t pin) { return TOLD && pin >= FIRST_TOLD_PIN && pin < FIRST_TOLD_PIN + image::TOLD_RELAYS; }

/// A second chip works this relay: the frame that says so, a dozen bytes at most.
void tellRelay(uint8_t pin, bool on) {
  const size_t first = (static_cast<size_t>(pin - FIRST_TOLD_PIN) * 2 + (on ? 1 : 0)) * image::TOLD_BYTES;
  for (size_t i = 0; i < image::TOLD_BYTES; i++) Serial.write(row(image::TOLD_FRAMES + first + i));
}

bool onExpander(uint8_t pin) { return EXPANDED && pin >= FIRST_EXPANDER_PIN && pin != NO_PIN; }

void writePin(uint8_t pin, bool level) {
  if (isTold(pin)) {
    tellRelay(pin, level);
  } else if (onExpander(pin)) {
    EXPANDER.write(static_cast<uint8_t>(pin - FIRST_EXPANDER_PIN), level);
  } else {
    digitalWrite(pin, level ? HIGH : LOW);
  }
}

bool readPin(uint8_t pin) {
  return onExpander(pin) ? EXPANDER.read(static_cast<uint8_t>(pin - FIRST_EXPANDER_PIN)) : digitalRead(pin) == HIGH;
}

void makeOutput(uint8_t pin, bool level) {
  if (isTold(pin)) return tellRelay(pin, level);
  if (onExpander(pin)) return EXPANDER.makeOutput(static_cast<uint8_t>(pin - FIRST_EXPANDER_PIN), level);
  // the safe level first, then the direction; once more, for cores that reset the level with it
  writePin(pin, level);
  pinMode(pin, OUTPUT);
  writePin(pin, level);
}

void makeInput(uint8_t pin, bool pullUp) {
  if (onExpander(pin)) return EXPANDER.makeInput(static_cast<uint8_t>(pin - FIRST_EXPANDER_PIN), pullUp);
  pinMode(pin, pullUp ? INPUT_PULLUP : INPUT);
}

const Memory MEMORY = {nullptr, [](void*, size_t at) -> uint8_t { return store.read(VESTIBULE_STORE_AT + at); },
                       [](void*, size_t at, uint8_t value) { store.write(VESTIBULE_STORE_AT + at, value); }};

const Port PORT = {
    nullptr,
    [](void*, uint8_t channel, uint8_t contact, bool, bool level) {
      writePin(row(image::IMAGE.outputPins + row(&image::IMAGE.channels[channel].firstOutput) + contact), level);
    },
    [](void*, uint8_t link, const char* topic, const char* payload, bool retain) {
      network->publish(link, topic, payload, retain);
    },
    [](void*, uint8_t link, const char* topic) { network->subscribe(link, topic); },
    [](void*, uint8_t link) { network->join(link); },
    [](void*) { storeWaits = true; },
    [](void*) {
      char character;
      while (lineCharacter(device, character)) VESTIBULE_LINE.write(static_cast<uint8_t>(character));
    },
    [](void*, char character) { VESTIBULE_LINE.write(static_cast<uint8_t>(character)); },
    [](void*, bool reset) {
      if (reset) {
        network->forget();
      } else {
        network->pair();
      }
    },
    nullptr,
};

VESTIBULE_INTERRUPT void receiverEdge() {
  const uint32_t now = micros();
  const uint32_t passed = now - lastEdgeUs;
  const bool high = digitalRead(image::RECEIVER_PIN) == HIGH;
  lastEdgeUs = now;
  if (durationCount == 0 && !high) return;  // a frame's first mark begins
  // `high` ends a mark, which has the even places; anything else means that an edge was lost
  if (high != ((durationCount & 1) == 0) || durationCount >= VESTIBULE_MOST_DURATIONS) return;
  durations[durationCount] = passed > LONGEST_US ? LONGEST_US : static_cast<uint16_t>(passed);
  durationCount = static_cast<uint8_t>(durationCount + 1);
}

void makePins() {
  for (uint8_t i = 0; i < image::IMAGE.channelCount; i++) {
    const Channel& table = row(image::IMAGE.channels + i);
    for (uint8_t contact = 0; contact < table.contacts; contact++)
      makeOutput(row(image::IMAGE.outputPins + table.firstOutput + contact), table.activeLow);
  }
  for (uint8_t i = 0; i < image::IMAGE.inputCount; i++) {
    const Input& table = row(image::IMAGE.inputs + i);
    for (uint8_t bit = 0; bit < table.pins; bit++)
      makeInput(row(image::IMAGE.inputPins + table.firstPin + bit), table.pull == Pull::up);
  }
}

void readLevels(bool all) {
  for (uint8_t i = 0; i < image::IMAGE.inputCount; i++) {
    const Input& table = row(image::IMAGE.inputs + i);
    for (uint8_t bit = 0; bit < table.pins; bit++) {
      const uint8_t mask = static_cast<uint8_t>(1u << bit);
      const bool high = readPin(row(image::IMAGE.inputPins + table.firstPin + bit));
      if (!all && high == ((lastLevels[i] & mask) != 0)) continue;
      lastLevels[i] = static_cast<uint8_t>(high ? lastLevels[i] | mask : lastLevels[i] & ~mask);
      vestibule::level(device, i, bit, high ? 1 : 0);
    }
  }
}

void logText(Words words) {
  for (char c = charAt(words); c != '\0'; c = charAt(++words)) Serial.write(static_cast<uint8_t>(c));
}

void hearMain(char character) {
  if (character != '\n') {
    if (heardLength < sizeof heard) heard[heardLength] = character;
    heardLength++;
    return;
  }
  line(device, heard, heardLength < sizeof heard ? heardLength : 0);
  heardLength = 0;
}

constexpr bool HAS_LIGHT = image::STATUS_LIGHT_PIN != NO_PIN;

bool allUp() {
  for (uint8_t i = 0; i < device.image->linkCount; i++) {
    if (device.links[i].state != LinkState::up) return false;
  }
  return true;
}

/// Pairing goes before all; a controller that has links and is not up on each tries to join.
Light lightNow() {
  if (network->waitsToBePaired()) return Light::pairing;
  if (allUp()) return Light::up;
  return network->refused() ? Light::refused : Light::joining;
}

void showLight() {
  const bool lit = isLit(lightNow(), static_cast<uint32_t>(millis()));
  digitalWrite(image::STATUS_LIGHT_PIN, lit == image::STATUS_LIGHT_LIT_HIGH ? HIGH : LOW);
}

bool frameHasEnded() {
  return (durationCount & 1) != 0 && micros() - lastEdgeUs > FRAME_ENDS_US && digitalRead(image::RECEIVER_PIN) == HIGH;
}

}  // namespace

void controllerSetup(Network& theNetwork, const Store& theStore) {
  // what tells the relays must speak before the first of them is told
  if (TOLD && !MIRRORS) Serial.begin(image::TOLD_BAUD);
  if (!MIRRORS) makePins();
  network = &theNetwork;
  store = theStore;
  vestibule::memory::prepared(PORT).mirrors = MIRRORS;
  if (!MIRRORS) loadRecord(device, MEMORY);
  if (image::BAUD != 0) {
    VESTIBULE_LINE_BEGIN(image::BAUD);
  } else if (VESTIBULE_SERIAL_LOG != 0 && !TOLD) {
    Serial.begin(LOG_BAUD);
    logText("tables ");
    logText(device.image->hash);
    logText("\r\n");
  }
  if (!MIRRORS && image::RECEIVER_PIN != NO_PIN) {
    pinMode(image::RECEIVER_PIN, INPUT);
    attachInterrupt(digitalPinToInterrupt(image::RECEIVER_PIN), receiverEdge, CHANGE);
  }
  if (HAS_LIGHT) makeOutput(image::STATUS_LIGHT_PIN, !image::STATUS_LIGHT_LIT_HIGH);
  begin(device, static_cast<uint32_t>(millis()));
  power(device, true);
  if (!MIRRORS) readLevels(true);
  finish(device);
}

void controllerLoop() {
  const uint32_t now = static_cast<uint32_t>(millis());
  begin(device, now);
  network->before(now);
  if (HAS_LIGHT) showLight();
  if (!MIRRORS) readLevels(false);
  if (!MIRRORS && image::RECEIVER_PIN != NO_PIN && frameHasEnded()) {
    edges(device, durations, durationCount);
    durationCount = 0;
  }
  if (image::BAUD != 0) {
    while (VESTIBULE_LINE.available() > 0) {
      const char read = static_cast<char>(VESTIBULE_LINE.read());
      if (MIRRORS) {
        hearMain(read);
      } else {
        character(device, read);
      }
    }
  }
  finish(device);
  network->after(now);
  if (!storeWaits) return;
  storeWaits = false;
  saveRecord(device, MEMORY);
  store.commit();
}

void controllerLinkIs(uint8_t link, bool up) { vestibule::link(device, link, up); }
void controllerHears(uint8_t link, const char* topic, const uint8_t* payload, size_t length, bool retained) {
  message(device, link, topic, reinterpret_cast<const char*>(payload), length, retained);
}
// What comes between two passes comes now, not at the pass before.
void controllerReads(uint8_t number, int32_t thousandths) {
  begin(device, static_cast<uint32_t>(millis()));
  sensor(device, number, thousandths);
}
void controllerKnowsTime(uint32_t weekMs) {
  begin(device, static_cast<uint32_t>(millis()));
  vestibule::clock(device, weekMs);
}
vestibule::Device& controllerDevice() { return device; }
const vestibule::Memory& controllerMemory() { return MEMORY; }
size_t networkStoreAt() { return 2 * recordBytes(image::CHANNEL_COUNT); }
void controllerCommits() { store.commit(); }
Words controllerHash() { return device.image->hash; }
bool controllerWantsTime() { return !MIRRORS && image::IMAGE.scheduleCount > 0; }

}  // namespace core
