#include "inside.h"

namespace vestibule {

static size_t firstChannelSlot(const Image& image) { return image.inputCount * INPUT_TIMERS; }
static size_t firstOwnSlot(const Image& image) { return firstChannelSlot(image) + image.channelCount * CHANNEL_TIMERS; }

size_t slotOf(const Image& image, Slot kind, uint8_t index) {
  const size_t number = static_cast<size_t>(kind);
  if (kind <= Slot::hold) return index * INPUT_TIMERS + number;
  if (kind <= Slot::gap) return firstChannelSlot(image) + index * CHANNEL_TIMERS + (number - static_cast<size_t>(Slot::limit));
  return firstOwnSlot(image) + (number - static_cast<size_t>(Slot::store));
}

void ownerOf(const Image& image, size_t slot, Slot& kind, uint8_t& index) {
  if (slot < firstChannelSlot(image)) {
    kind = static_cast<Slot>(slot % INPUT_TIMERS);
    index = static_cast<uint8_t>(slot / INPUT_TIMERS);
  } else if (slot < firstOwnSlot(image)) {
    const size_t offset = slot - firstChannelSlot(image);
    kind = static_cast<Slot>(static_cast<size_t>(Slot::limit) + offset % CHANNEL_TIMERS);
    index = static_cast<uint8_t>(offset / CHANNEL_TIMERS);
  } else {
    kind = static_cast<Slot>(static_cast<size_t>(Slot::store) + (slot - firstOwnSlot(image)));
    index = 0;
  }
}

static size_t slots(const Device& device) { return timerCount(device.image->inputCount, device.image->channelCount); }

void arm(Device& device, size_t slot, uint32_t ms) {
  Timer& timer = device.timers[slot];
  timer.at = device.now + ms;
  timer.order = ++device.armings;
  timer.armed = true;
}

void cancel(Device& device, size_t slot) { device.timers[slot].armed = false; }

void cancelAll(Device& device) {
  for (size_t slot = 0; slot < slots(device); slot++) device.timers[slot].armed = false;
}

bool isArmed(const Device& device, size_t slot) { return device.timers[slot].armed; }

// The earliest deadline; among equals the one set first. `order` wraps after 2^32 armings and is compared like time.
bool nextSlot(const Device& device, size_t& best) {
  bool found = false;
  for (size_t slot = 0; slot < slots(device); slot++) {
    const Timer& timer = device.timers[slot];
    if (!timer.armed) continue;
    if (found) {
      const int32_t gap = difference(timer.at, device.timers[best].at);
      if (gap > 0 || (gap == 0 && difference(timer.order, device.timers[best].order) > 0)) continue;
    }
    best = slot;
    found = true;
  }
  return found;
}

}  // namespace vestibule
