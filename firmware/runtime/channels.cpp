#include "inside.h"

namespace vestibule {

static void change(Device& device, uint8_t index, uint8_t level, Source source) {
  const Channel* table = device.image->channels + index;
  ChannelState& channel = device.channels[index];
  channel.level = level;
  if (level > 0) channel.lastLevel = level;
  speakOf(channel, source);
  device.statusDue = true;
  // A pulse is as long as it is told; every other limit follows the contact (contacts.cpp).
  const ChannelKind kind = row(&table->kind);
  if (!limitRunsFromContact(kind)) {
    const size_t limit = slotOf(*device.image, Slot::limit, index);
    if (level == 0) {
      cancel(device, limit);
    } else {
      arm(device, limit, row(&table->maxOnMs));
    }
  } else if (kind == ChannelKind::stepped && channel.closed == 0) {
    // within the gap between two levels, when nothing opens or closes
    if (level == 0) {
      beginRest(device, index);
    } else {
      cancel(device, slotOf(*device.image, Slot::rest, index));
    }
  }
  const uint32_t minOffMs = level == 0 ? row(&table->minOffMs) : 0;
  if (minOffMs > 0) arm(device, slotOf(*device.image, Slot::offGap, index), minOffMs);
  if (isStored(*device.image, index)) storeSoon(device);
}

// Goes to a level, now or, from off, as soon as minOffMs or the rest after a limit has passed.
void goTo(Device& device, uint8_t index, uint8_t level, Source source) {
  ChannelState& channel = device.channels[index];
  channel.reportDue = true;
  if (level == 0) channel.waitingLevel = 0;
  if (channel.level == level) return;
  if (channel.level == 0 && isArmed(device, slotOf(*device.image, Slot::offGap, index))) {
    channel.waitingLevel = level;
    channel.waitingSource = source;
    return;
  }
  change(device, index, level, source);
}

// The level that it has, or is to have as soon as it may.
static uint8_t meantLevel(const Device& device, uint8_t index) {
  const ChannelState& channel = device.channels[index];
  if (channel.level != 0) return channel.level;
  return channel.waitingLevel != 0 ? channel.waitingLevel : channel.staggeredLevel;
}

// The level that a switched, stepped or feeding channel is to have; false: it does not know the word.
static bool lastingTarget(const Device& device, uint8_t index, Action action, uint8_t level, uint8_t& target) {
  target = 0;
  if (action == Action::off) return true;
  const Channel* table = device.image->channels + index;
  const uint8_t meant = meantLevel(device, index);
  const uint8_t top = row(&table->top);
  switch (action) {
    case Action::on: target = meant != 0 ? meant : device.channels[index].lastLevel; return true;
    case Action::toggle: target = meant != 0 ? 0 : device.channels[index].lastLevel; return true;
    case Action::up:
      target = meant < top ? static_cast<uint8_t>(meant + 1) : row(&table->wrap) ? static_cast<uint8_t>(0) : top;
      return true;
    case Action::down:
      target = meant > 0 ? static_cast<uint8_t>(meant - 1) : row(&table->wrap) ? top : static_cast<uint8_t>(0);
      return true;
    case Action::level: target = level < top ? level : top; return true;
    default: return false;
  }
}

// 0 stop, 1 a, 2 b. A toggle stops what runs, and starts the other way from where it ran last: one button works a
// shutter.
VESTIBULE_RARE static bool pairedTarget(const ChannelState& channel, Action action, uint8_t level, uint8_t& target) {
  switch (action) {
    case Action::a:
    case Action::up: target = 1; return true;
    case Action::b:
    case Action::down: target = 2; return true;
    case Action::stop:
    case Action::off: target = 0; return true;
    case Action::toggle: target = channel.level > 0 ? 0 : channel.lastLevel == 1 ? 2 : 1; return true;
    case Action::level: target = level < 2 ? level : 2; return true;
    default: return false;
  }
}

__attribute__((always_inline)) static inline bool asked(const Device& device, ChannelKind kind, uint8_t index,
                                                        Action action, uint8_t level, uint8_t& target) {
  return kind == ChannelKind::paired ? pairedTarget(device.channels[index], action, level, target)
                                     : lastingTarget(device, index, action, level, target);
}

VESTIBULE_RARE bool targetOf(const Device& device, uint8_t index, Action action, uint8_t level, uint8_t& target) {
  return asked(device, row(&device.image->channels[index].kind), index, action, level, target);
}

bool hasContact(const Device& device, uint8_t index) {
  return row(&device.image->channels[index].contact) < device.image->inputCount;
}

bool doorIsClosed(const Device& device, uint8_t index, bool& closed) {
  const Channel* table = device.image->channels + index;
  const uint8_t contact = row(&table->contact);
  if (contact >= device.image->inputCount) return false;
  const uint8_t settled = device.inputs[contact].settled;
  if (settled == UNKNOWN) return false;
  closed = (settled != 0) == row(&table->contactMeansClosed);
  return true;
}

// A pulse that is not made is said, so that nobody waits at a door.
static void refuse(Device& device, uint8_t index, Words why) {
  device.channels[index].reportDue = true;
  log(device, row(&device.image->channels[index].topic), why, WORDS(""));
}

static void pulse(Device& device, uint8_t index, Source source) {
  if (device.channels[index].level > 0) return refuse(device, index, WORDS(": pulse running"));
  // the lockout ends at its last millisecond: what comes with its end is accepted
  const size_t lockout = slotOf(*device.image, Slot::offGap, index);
  if (isArmed(device, lockout)) {
    if (difference(device.timers[lockout].at, device.now) > 0) return refuse(device, index, WORDS(": locked out"));
    cancel(device, lockout);
  }
  goTo(device, index, 1, source);
}

VESTIBULE_RARE static void pulseCommand(Device& device, uint8_t index, Action action, uint8_t level, Source source) {
  if (action == Action::pulse || (action == Action::level && level > 0)) return pulse(device, index, source);
  if (action != Action::open && action != Action::close) return;
  bool closed = false;
  if (!doorIsClosed(device, index, closed)) return refuse(device, index, WORDS(": position not known"));
  // Only a door that stands the other way is pulsed: a repeated `open` must not close it.
  if (closed == (action == Action::open)) return pulse(device, index, source);
  device.channels[index].reportDue = true;
}

// The last command wins: it ends whatever the power-up still meant to do.
void command(Device& device, uint8_t index, Action action, uint8_t level, Source source) {
  if (device.mirrors) return sayToChannel(device, index, action, level);
  const ChannelKind kind = row(&device.image->channels[index].kind);
  if (kind == ChannelKind::pulsed) return pulseCommand(device, index, action, level, source);
  uint8_t target = 0;
  if (!asked(device, kind, index, action, level, target)) return;
  cancel(device, slotOf(*device.image, Slot::serviceWait, index));
  device.channels[index].staggeredLevel = 0;
  goTo(device, index, target, source);
}

// The limit opens the contact, and keeps it open until it has rested.
void limitReached(Device& device, uint8_t index) {
  if (!limitRunsFromContact(row(&device.image->channels[index].kind))) return goTo(device, index, 0, Source::limit);
  // one that has been told open a moment ago rests already
  const size_t rest = slotOf(*device.image, Slot::rest, index);
  const uint32_t wait = isArmed(device, rest) ? device.timers[rest].at - device.now : REST_MS;
  if (device.channels[index].level > 0) goTo(device, index, 0, Source::limit);
  const size_t gap = slotOf(*device.image, Slot::offGap, index);
  if (!isArmed(device, gap) || device.timers[gap].at - device.now < wait) arm(device, gap, wait);
}

// The contact has really been open: the limit is over, and counts anew from the next closing.
void restOver(Device& device, uint8_t index) { cancel(device, slotOf(*device.image, Slot::limit, index)); }

// A turn-on that waited acts.
void waitingTurnsOn(Device& device, uint8_t index) {
  ChannelState& channel = device.channels[index];
  const uint8_t level = channel.waitingLevel;
  if (level == 0) return;
  channel.waitingLevel = 0;
  goTo(device, index, level, channel.waitingSource);
}

}  // namespace vestibule
