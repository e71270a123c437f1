#include "inside.h"

namespace vestibule {

static_assert(static_cast<uint8_t>(Slot::limit) == INPUT_TIMERS, "inputs own the first kinds of slot");
static_assert(static_cast<uint8_t>(Slot::store) == INPUT_TIMERS + CHANNEL_TIMERS, "channels own the next");
static_assert(static_cast<uint8_t>(Slot::window) + 1 == INPUT_TIMERS + CHANNEL_TIMERS + OWN_TIMERS, "the controller owns the rest");

/// A channel as it is at power-up, before its policy has spoken.
static void rest(Device& device, uint8_t index) {
  ChannelState& channel = device.channels[index];
  channel.seq = 0;
  channel.level = 0;
  channel.lastLevel = device.hasStored ? channel.storedLast : device.image->channels[index].onLevel;
  channel.closed = 0;
  channel.source = Source::power;
  channel.waitingLevel = 0;
  channel.waitingSource = Source::power;
  channel.staggeredLevel = 0;
  channel.staggeredSource = Source::power;
  channel.reportDue = false;
}

void prepare(Device& device) {
  device.now = 0;
  device.armings = 0;
  device.random = device.image->seed;
  device.staggerNext = 0;
  device.attempts = 0;
  device.link = LinkState::down;
  device.powered = false;
  device.announce = false;
  device.hasStored = false;
  cancelAll(device);
  for (uint8_t i = 0; i < device.image->inputCount; i++) {
    device.inputs[i] = InputState{0, UNKNOWN, false};
  }
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    device.channels[i].storedLevel = 0;
    device.channels[i].storedLast = 0;
    rest(device, i);
  }
  for (uint8_t i = 0; i < device.image->pointCount; i++) device.heldBack[i] = false;
}

static void deadline(Device& device, size_t slot) {
  Slot kind;
  uint8_t index;
  ownerOf(*device.image, slot, kind, index);
  switch (kind) {
    case Slot::settle: return settled(device, index);
    case Slot::hold: return held(device, index);
    case Slot::limit: return limitReached(device, index);
    case Slot::offGap: return offGapOver(device, index);
    case Slot::turnOn: return staggerTurn(device, index);
    case Slot::serviceWait: return serviceWaitOver(device, index);
    case Slot::reportGap: return;
    case Slot::gap: return;
    case Slot::store: return storeDue(device);
    case Slot::join: return join(device);
    case Slot::heartbeat: return heartbeat(device);
    case Slot::window: return windowOver(device);
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

void finish(Device& device) {
  if (!device.powered) return;
  size_t slot;
  while (nextSlot(device, slot) && difference(device.timers[slot].at, device.now) <= 0) {
    // Unlinked before it acts, so that what it does may arm the same slot again.
    cancel(device, slot);
    deadline(device, slot);
  }
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    commitChannel(device, i);
  }
  sendReports(device);
}

void power(Device& device, bool on) {
  if (on == device.powered) return;
  const Image& image = *device.image;
  cancelAll(device);
  device.powered = on;
  device.link = LinkState::down;
  device.announce = false;
  for (uint8_t i = 0; i < image.pointCount; i++) device.heldBack[i] = false;
  if (!on) return;
  device.attempts = 0;
  device.random = image.seed;
  device.staggerNext = device.now;
  for (uint8_t i = 0; i < image.channelCount; i++) {
    rest(device, i);
    for (uint8_t contact = 0; contact < image.channels[i].contacts; contact++) writeContact(device, i, contact, false);
  }
  for (uint8_t i = 0; i < image.inputCount; i++) {
    device.inputs[i].settled = UNKNOWN;
    device.inputs[i].holdFired = false;
    arm(device, slotOf(image, Slot::settle, i), image.inputs[i].settleMs);
  }
  for (uint8_t i = 0; i < image.channelCount; i++) powerUpChannel(device, i);
  if (image.link) join(device);
}

void link(Device& device, bool up) {
  if (device.powered) linkChanges(device, up);
}

void level(Device& device, uint8_t input, uint8_t bit, uint8_t level) { levelArrives(device, input, bit, level); }

void message(Device& device, const char* topic, const char* payload, size_t length, bool retain) {
  if (device.powered) messageArrives(device, topic, payload, length, retain);
}

bool nextDeadline(const Device& device, uint32_t& at) {
  size_t slot;
  if (!nextSlot(device, slot)) return false;
  at = device.timers[slot].at;
  return true;
}

}  // namespace vestibule
