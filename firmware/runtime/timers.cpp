#include "inside.h"

namespace vestibule {

/// The kinds of slot that one kind of thing owns: for each input, channel, sensor and rule, then once for the controller.
struct Block {
  uint8_t first;  ///< first kind
  uint8_t kinds;
  uint8_t owners;
};

static const uint8_t BLOCKS = 5;
/// Device::next: no slot is armed, or it is not known which is the earliest.
static const uint16_t NOTHING_DUE = 0xffff;
static const uint16_t LOOK_AGAIN = 0xfffe;

static Block block(const Image& image, uint8_t number) {
  switch (number) {
    case 0: return {static_cast<uint8_t>(Slot::settle), INPUT_TIMERS, image.inputCount};
    case 1: return {static_cast<uint8_t>(Slot::limit), CHANNEL_TIMERS, image.channelCount};
    case 2: return {static_cast<uint8_t>(Slot::stale), SENSOR_TIMERS, image.sensorCount};
    case 3: return {static_cast<uint8_t>(Slot::dwell), RULE_TIMERS, image.ruleCount};
    default: return {static_cast<uint8_t>(Slot::store), OWN_TIMERS, 1};
  }
}

static_assert(static_cast<uint8_t>(Slot::limit) == INPUT_TIMERS, "inputs own the first kinds of slot");
static_assert(static_cast<uint8_t>(Slot::stale) == INPUT_TIMERS + CHANNEL_TIMERS, "channels own the next");
static_assert(static_cast<uint8_t>(Slot::dwell) == INPUT_TIMERS + CHANNEL_TIMERS + SENSOR_TIMERS, "then sensors");
static_assert(static_cast<uint8_t>(Slot::store) == INPUT_TIMERS + CHANNEL_TIMERS + SENSOR_TIMERS + RULE_TIMERS, "then rules");
static_assert(static_cast<uint8_t>(Slot::schedule) + 1 == INPUT_TIMERS + CHANNEL_TIMERS + SENSOR_TIMERS + RULE_TIMERS + OWN_TIMERS, "the controller owns the rest");

size_t slotOf(const Image& image, Slot kind, uint8_t index) {
  const uint8_t number = static_cast<uint8_t>(kind);
  size_t first = 0;
  for (uint8_t b = 0;; b++) {
    const Block here = block(image, b);
    if (b + 1 == BLOCKS || number < here.first + here.kinds) return first + static_cast<size_t>(index) * here.kinds + (number - here.first);
    first += static_cast<size_t>(here.kinds) * here.owners;
  }
}

void ownerOf(const Image& image, size_t slot, Slot& kind, uint8_t& index) {
  for (uint8_t b = 0;; b++) {
    const Block here = block(image, b);
    const size_t count = static_cast<size_t>(here.kinds) * here.owners;
    if (slot < count || b + 1 == BLOCKS) {
      kind = static_cast<Slot>(here.first + slot % here.kinds);
      index = static_cast<uint8_t>(slot / here.kinds);
      return;
    }
    slot -= count;
  }
}

static size_t slots(const Device& device) {
  const Image& image = *device.image;
  return timerCount(image.inputCount, image.channelCount, image.sensorCount, image.ruleCount);
}

// The earliest slot is remembered (device.next), since it is asked for each millisecond: what is armed before it takes its place,
// and when it is cancelled or armed anew all are looked through once.
void arm(Device& device, size_t slot, uint32_t ms) {
  Timer& timer = device.timers[slot];
  timer.at = device.now + ms;
  if (++device.armings == 0) device.armings = 1;
  timer.order = device.armings;
  if (device.next == LOOK_AGAIN) return;
  if (device.next == slot) {
    device.next = LOOK_AGAIN;
  } else if (device.next == NOTHING_DUE || difference(timer.at, device.timers[device.next].at) < 0) {
    device.next = static_cast<uint16_t>(slot);
  }
}

void cancel(Device& device, size_t slot) {
  device.timers[slot].order = 0;
  if (device.next == slot) device.next = LOOK_AGAIN;
}

void cancelAll(Device& device) {
  const size_t count = slots(device);
  for (size_t slot = 0; slot < count; slot++) device.timers[slot].order = 0;
  device.next = NOTHING_DUE;
}

bool isArmed(const Device& device, size_t slot) { return device.timers[slot].order != 0; }

// The earliest deadline; among equals the one set first. `order` wraps and is compared like time.
bool nextSlot(Device& device, size_t& best) {
  if (device.next != LOOK_AGAIN) {
    best = device.next;
    return device.next != NOTHING_DUE;
  }
  // a pointer runs along: to work out each timer's place costs the 8-bit core more than the timer itself
  const Timer* first = nullptr;
  const Timer* const end = device.timers + slots(device);
  for (const Timer* timer = device.timers; timer != end; timer++) {
    if (timer->order == 0) continue;
    if (first != nullptr) {
      const int32_t gap = difference(timer->at, first->at);
      if (gap > 0 || (gap == 0 && static_cast<OrderGap>(timer->order - first->order) > 0)) continue;
    }
    first = timer;
  }
  const bool found = first != nullptr;
  if (found) best = static_cast<size_t>(first - device.timers);
  device.next = found ? static_cast<uint16_t>(best) : NOTHING_DUE;
  return found;
}

}  // namespace vestibule
