#include "inside.h"

namespace vestibule {

static const uint32_t MINUTE_MS = 60000;
static const uint32_t DAY_MS = 86400000;
static const uint32_t WEEK_MS = 7 * DAY_MS;

// ms to the next time of a schedule; 0 counts only where `inclusive`.
static void armNext(Device& device, bool inclusive) {
  bool found = false;
  uint32_t best = 0;
  for (uint8_t i = 0; i < device.image->scheduleCount; i++) {
    const Schedule& schedule = row(device.image->schedules + i);
    for (uint8_t day = 0; day < 7; day++) {
      if ((schedule.days >> day & 1) == 0) continue;
      const uint32_t ahead = (day * DAY_MS + schedule.minute * MINUTE_MS + WEEK_MS - device.clockWeekMs) % WEEK_MS;
      const uint32_t wait = ahead == 0 && !inclusive ? WEEK_MS : ahead;
      if (!found || wait < best) best = wait;
      found = true;
    }
  }
  if (found) arm(device, slotOf(*device.image, Slot::schedule), best);
}

// A hand keeps rules away for a while, not a timetable; in manual it is skipped, and that is said.
static void act(Device& device, const Schedule& schedule) {
  if (device.channels[schedule.channel].isAuto) {
    command(device, schedule.channel, schedule.action, schedule.level, Source::schedule);
  } else {
    log(device, row(&device.image->channels[schedule.channel].topic), WORDS(": manual, schedule skipped"), WORDS(""));
  }
}

// The schedule of a channel that has passed last, less than `within` ago; of two at one time the later row. `any`: also
// one that is now, and one that is not to be made up for.
static bool lastPassed(const Device& device, uint8_t index, uint32_t within, bool any, Schedule& last) {
  bool found = false;
  uint32_t best = within;
  for (uint8_t i = 0; i < device.image->scheduleCount; i++) {
    const Schedule& schedule = row(device.image->schedules + i);
    if (schedule.channel != index || !(any || schedule.catchUp)) continue;
    for (uint8_t day = 0; day < 7; day++) {
      if ((schedule.days >> day & 1) == 0) continue;
      const uint32_t ago = (device.clockWeekMs + WEEK_MS - day * DAY_MS - schedule.minute * MINUTE_MS) % WEEK_MS;
      if (ago > best || ago >= within || (ago == 0 && !any)) continue;
      best = ago;
      last = schedule;
      found = true;
    }
  }
  return found;
}

// How far back schedules are made up for: a day when the clock becomes known, else what it jumps ahead by; more than
// half a week ahead is set back.
static uint32_t missedBy(const Device& device, uint32_t weekMs) {
  if (!device.clockKnown) return DAY_MS;
  const uint32_t expected = (device.clockWeekMs + (device.now - device.clockAt)) % WEEK_MS;
  const uint32_t ahead = (weekMs + WEEK_MS - expected) % WEEK_MS;
  return ahead >= WEEK_MS / 2 ? 0 : ahead < DAY_MS ? ahead : DAY_MS;
}

void clockSet(Device& device, uint32_t weekMs) {
  const uint32_t missed = missedBy(device, weekMs);
  device.clockKnown = true;
  device.clockAt = device.now;
  device.clockWeekMs = weekMs;
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    Schedule last{};
    if (row(&device.image->channels[i].powerUp) == PowerUp::timetable &&
        isArmed(device, slotOf(*device.image, Slot::serviceWait, i))) {
      const bool found = lastPassed(device, i, WEEK_MS, true, last);
      timedAtPowerUp(device, i,
                     !found                       ? NO_LEVEL
                     : last.action == Action::on  ? device.channels[i].lastLevel
                     : last.action == Action::off ? 0
                                                  : last.level);
    } else if (missed > 0 && lastPassed(device, i, missed, false, last)) {
      act(device, last);
    }
  }
  armNext(device, true);
}

// The clock's base moves along, so that the 32-bit millisecond count may wrap.
void scheduleDue(Device& device) {
  const uint32_t now = (device.clockWeekMs + (device.now - device.clockAt)) % WEEK_MS;
  device.clockAt = device.now;
  device.clockWeekMs = now;
  const uint8_t day = static_cast<uint8_t>(now / DAY_MS);
  const uint16_t minute = static_cast<uint16_t>(now % DAY_MS / MINUTE_MS);
  for (uint8_t i = 0; i < device.image->scheduleCount; i++) {
    const Schedule& schedule = row(device.image->schedules + i);
    if ((schedule.days >> day & 1) == 0 || schedule.minute != minute) continue;
    act(device, schedule);
  }
  armNext(device, false);
}

}  // namespace vestibule
