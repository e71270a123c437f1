#include "inside.h"

namespace vestibule {

void ownerOf(const Image& image, size_t slot, Slot& kind, uint8_t& index) {
  const auto among = [&](Slot first, size_t timers) {
    kind = static_cast<Slot>(static_cast<uint8_t>(first) + slot % timers);
    index = static_cast<uint8_t>(slot / timers);
  };
  size_t count = INPUT_TIMERS * image.inputCount;
  if (slot < count) return among(Slot::settle, INPUT_TIMERS);
  slot -= count;
  count = CHANNEL_TIMERS * image.channelCount;
  if (slot < count) return among(Slot::limit, CHANNEL_TIMERS);
  slot -= count;
  count = SENSOR_TIMERS * image.sensorCount;
  if (slot < count) return among(Slot::stale, SENSOR_TIMERS);
  slot -= count;
  count = RULE_TIMERS * image.ruleCount;
  if (slot < count) return among(Slot::dwell, RULE_TIMERS);
  slot -= count;
#ifndef VESTIBULE_NO_LINK
  count = LINK_TIMERS * image.linkCount;
  if (slot < count) return among(Slot::join, LINK_TIMERS);
  slot -= count;
#endif
  among(Slot::turn, OWN_TIMERS);
}

void disarmAll(Device& device) {
  const Image& image = *device.image;
#ifdef VESTIBULE_NO_LINK
  const size_t links = 0;
#else
  const size_t links = image.linkCount;
#endif
  const size_t count = timerCount(image.inputCount, image.channelCount, image.sensorCount, image.ruleCount, links);
  for (size_t slot = 0; slot < count; slot++) device.timers[slot].next = NOT_ARMED;
  device.earliest = NO_PLACE;
}

void arm(Device& device, size_t slot, uint32_t ms) {
  Timer& timer = device.timers[slot];
  const uint32_t at = device.now + ms;
  if (isArmed(device, slot)) {
    // set anew for the same instant, and none since: it would come to stand where it stands
    if (timer.at == at && (timer.next == NO_PLACE || device.timers[timer.next].at != at)) return;
    unlink(device, slot);
  }
  // behind all that are due earlier, and behind those of the same instant, which were set before
  Place* link = &device.earliest;
  while (*link != NO_PLACE && difference(device.timers[*link].at, at) <= 0) link = &device.timers[*link].next;
  timer.at = at;
  timer.next = *link;
  *link = static_cast<Place>(slot);
}

// Takes one that is armed out of the chain.
void unlink(Device& device, size_t slot) {
  Timer& timer = device.timers[slot];
  Place* link = &device.earliest;
  while (*link != slot) link = &device.timers[*link].next;
  *link = timer.next;
  timer.next = NOT_ARMED;
}

bool dueGesture(const Device& device, size_t& slot) {
  const size_t gestures = INPUT_TIMERS * device.image->inputCount;
  for (Place place = device.earliest; place != NO_PLACE; place = device.timers[place].next) {
    if (difference(device.timers[place].at, device.now) > 0) return false;
    if (place >= gestures) continue;
    slot = place;
    return true;
  }
  return false;
}

bool nextSlot(const Device& device, size_t& slot) {
  slot = device.earliest;
  return device.earliest != NO_PLACE;
}

}  // namespace vestibule
