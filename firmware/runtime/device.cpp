#include "inside.h"

namespace vestibule {

/// A channel as it is at power-up, before its policy has spoken.
static void rest(Device& device, uint8_t index) {
  ChannelState& channel = device.channels[index];
#ifndef VESTIBULE_NO_LINK
  channel.seq = 0;
  channel.source = Source::power;
#endif
  channel.level = 0;
  channel.lastLevel = device.hasStored ? channel.storedLast : row(&device.image->channels[index].onLevel);
  channel.closed = 0;
  channel.lastClosed = 0;
  channel.waitingLevel = 0;
  channel.waitingSource = Source::power;
  channel.staggeredLevel = 0;
  channel.staggeredSource = Source::power;
  channel.reportDue = false;
  channel.isAuto =
      row(&device.image->channels[index].ruled) && (device.hasStored ? channel.storedAuto : device.image->autoStart);
}

static void forget(Device& device) {
  device.modeDue = false;
  device.statusDue = true;
  device.unknownCharacters = 0;
  device.lastFrame = Frame{Protocol::necRepeat, 0, 0, NO_TOGGLE};
  device.clockKnown = false;
  for (uint8_t i = 0; i < device.image->ruleCount; i++) device.wishes[i] = Wish::undecided;
  for (uint8_t i = 0; i < device.image->sensorCount; i++)
    device.sensors[i] = SensorState{0, 0, false, false, false, false};
}

void prepare(Device& device) {
  device.now = 0;
  device.random = device.image->seed;
  device.staggerNext = 0;
  device.clockAt = 0;
  device.clockWeekMs = 0;
#ifndef VESTIBULE_NO_LINK
  device.mirrors = false;
#endif
  device.lineRefused = false;
  device.powered = false;
  device.turnsDue = false;
  device.hasStored = false;
  device.heard = false;
  device.local = false;
  device.line.part = LinePart::none;
  disarmAll(device);
  forget(device);
  for (uint8_t i = 0; i < device.image->inputCount; i++) {
    device.inputs[i] = InputState();
    device.inputs[i].settled = UNKNOWN;
  }
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    device.channels[i].storedLevel = 0;
    device.channels[i].storedLast = 0;
    device.channels[i].storedAuto = false;
    rest(device, i);
  }
  forgetLinks(device);
}

static void deadline(Device& device, size_t slot) {
  Slot kind;
  uint8_t index;
  ownerOf(*device.image, slot, kind, index);
  switch (kind) {
    case Slot::settle: return settled(device, index);
    case Slot::hold: return held(device, index);
    case Slot::limit: return limitReached(device, index);
    case Slot::rest: return restOver(device, index);
    case Slot::offGap: return waitingTurnsOn(device, index);
    case Slot::serviceWait: return serviceWaitOver(device, index);
    case Slot::yield: return yieldOver(device, index);
    case Slot::stale: return sensorStale(device, index);
    case Slot::sensorDue: return sensorDue(device, index);
    case Slot::dwell: return dwellOver(device, index);
    case Slot::store: return storeDue(device);
    case Slot::join: return join(device, index);
    case Slot::heartbeat: return heartbeat(device);
    case Slot::window: return windowOver(device, index);
    case Slot::watch: return device.mirrors ? mainLost(device) : watchLost(device);
    case Slot::grace: return graceOver(device);
    case Slot::steady: return steadyOver(device);
    case Slot::status: device.statusDue = true; return;
    case Slot::schedule: return scheduleDue(device);
    // These only had to pass: what they kept back looks at whether they are armed.
    case Slot::turn:
    case Slot::reportGap:
    case Slot::gap:
    case Slot::pressWindow:
    case Slot::keyRepeat: return;
  }
}

void begin(Device& device, uint32_t now) {
  size_t slot;
  while (nextSlot(device, slot) && difference(device.timers[slot].at, now) < 0) {
    device.now = device.timers[slot].at;
    finish(device);
  }
  device.now = now;
}

static inline bool isDue(const Device& device, size_t& slot) {
  return nextSlot(device, slot) && difference(device.timers[slot].at, device.now) <= 0;
}

__attribute__((noinline)) static void fire(Device& device, size_t slot) {
  // Unlinked before it acts, so that what it does may arm the same slot again.
  cancel(device, slot);
  deadline(device, slot);
}

__attribute__((noinline)) static void fireGestures(Device& device) {
  size_t slot;
  while (dueGesture(device, slot)) fire(device, slot);
}

// What has settled and been held by now belongs to the levels: it acts before the messages of its instant.
static inline void workOffGestures(Device& device) {
  size_t slot;
  if (isDue(device, slot)) fireGestures(device);
}

void finish(Device& device) {
  if (!device.powered) return;
  size_t slot;
  if (isDue(device, slot)) {
    fireGestures(device);
    while (isDue(device, slot)) fire(device, slot);
  }
  if (!device.mirrors) {
    if (device.turnsDue) giveTurns(device);
    commitContacts(device);
  }
  sendReports(device);
  if (!device.mirrors) sendStatusLine(device);
}

void power(Device& device, bool on) {
  if (on == device.powered) return;
  const Image& image = *device.image;
  disarmAll(device);
  device.powered = on;
  forgetLinks(device);
  if (!on) return;
  device.random = image.seed;
  device.staggerNext = device.now;
  device.turnsDue = false;
  forget(device);
  for (uint8_t i = 0; i < image.channelCount; i++) {
    rest(device, i);
    const uint8_t contacts = device.mirrors ? 0 : row(&image.channels[i].contacts);
    for (uint8_t contact = 0; contact < contacts; contact++) writeContact(device, i, contact, false);
  }
  for (uint8_t i = 0; i < image.inputCount; i++) {
    device.inputs[i].settled = UNKNOWN;
    device.inputs[i].pressed = false;
#ifndef VESTIBULE_FEW_WORDS
    device.inputs[i].bounced = 0;
    device.inputs[i].movedFrom = device.now;
    device.inputs[i].movedAt = device.now;
#endif
    device.inputs[i].holdFired = false;
    if (!device.mirrors) arm(device, slotOf(image, Slot::settle, i), row(&image.inputs[i].settleMs));
  }
  if (device.mirrors) {
    forgetMain(device);
    return joinAll(device);
  }
  // A sensor that never speaks is as good as one that fell silent.
  for (uint8_t i = 0; i < image.sensorCount; i++)
    arm(device, slotOf(image, Slot::stale, i), row(&image.sensors[i].staleMs));
  for (uint8_t i = 0; i < image.channelCount; i++) powerUpChannel(device, i);
  startWatch(device);
  if (image.link) joinAll(device);
}

void link(Device& device, uint8_t index, bool up) {
  if (device.powered) linkChanges(device, index, up);
}

void clock(Device& device, uint32_t weekMs) {
  if (device.powered && !device.mirrors) clockSet(device, weekMs);
}

void level(Device& device, uint8_t input, uint8_t bit, uint8_t level) {
  if (!device.mirrors) levelArrives(device, input, bit, level);
}

void frame(Device& device, const Frame& frame, bool repeat) {
  if (!device.powered || device.mirrors) return;
  workOffGestures(device);
  frameArrives(device, frame, repeat);
}

void edges(Device& device, const uint16_t* durations, size_t count) {
  if (!device.powered || device.mirrors) return;
  workOffGestures(device);
  Frame frame;
  for (size_t from = 0; from < count;) {
    if (nextFrame(durations, count, from, frame)) frameArrives(device, frame, false);
  }
}

void message(Device& device, uint8_t link, const char* topic, const char* payload, size_t length, bool retain) {
  if (!device.powered) return;
  workOffGestures(device);
  messageArrives(device, link, topic, payload, length, retain);
}

void character(Device& device, char character) {
  if (!device.powered || device.mirrors) return;
  workOffGestures(device);
  characterArrives(device, character);
}

void sensor(Device& device, uint8_t sensor, int32_t thousandths) {
  if (!device.powered || device.mirrors) return;
  workOffGestures(device);
  sensorArrives(device, sensor, thousandths);
}

void line(Device& device, const char* text, size_t length) {
  if (device.powered && device.mirrors) lineArrives(device, text, length);
}

bool nextDeadline(Device& device, uint32_t& at) {
  size_t slot;
  if (!nextSlot(device, slot)) return false;
  at = device.timers[slot].at;
  return true;
}

}  // namespace vestibule
