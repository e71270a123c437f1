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

void clockSet(Device& device, uint32_t weekMs) {
  device.clockKnown = true;
  device.clockAt = device.now;
  device.clockWeekMs = weekMs;
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
    if ((schedule.days >> day & 1) == 0 || schedule.minute != minute || !rulesMayAct(device, schedule.channel))
      continue;
    command(device, schedule.channel, schedule.action, schedule.level, Source::schedule);
  }
  armNext(device, false);
}

}  // namespace vestibule
