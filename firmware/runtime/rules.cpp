#include "inside.h"

namespace vestibule {

static bool rulesMayAct(const Device& device, uint8_t channel) {
  return device.channels[channel].isAuto && !isArmed(device, slotOf(*device.image, Slot::yield, channel));
}

static void actOn(Device& device, const Rule& rule, bool on) {
  if (!rulesMayAct(device, rule.channel)) return;
  command(device, rule.channel,
          !on              ? Action::off
          : rule.level > 0 ? Action::level
                           : Action::on,
          rule.level, Source::rule);
}

static void decide(Device& device, uint8_t r, bool wish) {
  const Rule& rule = row(device.image->rules + r);
  device.wishes[r] = wish ? Wish::on : Wish::off;
  // silence from the start is no state that has to last: the first reading acts at once
  if (rule.dwellMs > 0 && device.sensors[rule.sensor].heard)
    arm(device, slotOf(*device.image, Slot::dwell, r), rule.dwellMs);
  actOn(device, rule, wish);
}

// On at or beyond the on-value, off at or beyond the off-value, nothing between. Within its dwell time a rule keeps its
// state.
static void evaluate(Device& device, uint8_t r) {
  const Rule& rule = row(device.image->rules + r);
  const SensorState& sensor = device.sensors[rule.sensor];
  if (!sensor.fresh) return;
  const int32_t value = sensor.value;
  Wish wish = Wish::undecided;
  if (rule.above ? value >= rule.on : value <= rule.on) {
    wish = Wish::on;
  } else if (rule.above ? value <= rule.off : value >= rule.off) {
    wish = Wish::off;
  }
  if (wish == Wish::undecided || wish == device.wishes[r] || isArmed(device, slotOf(*device.image, Slot::dwell, r)))
    return;
  decide(device, r, wish == Wish::on);
}

void sensorArrives(Device& device, uint8_t index, int32_t value) {
  SensorState& sensor = device.sensors[index];
  const Sensor& table = row(device.image->sensors + index);
  sensor.value = value;
  sensor.fresh = true;
  sensor.heard = true;
  const int32_t moved = value > sensor.reported ? value - sensor.reported : sensor.reported - value;
  if (!sensor.everReported || moved > table.deadBand) sensor.due = true;
  arm(device, slotOf(*device.image, Slot::stale, index), table.staleMs);
  for (uint8_t r = 0; r < device.image->ruleCount; r++) {
    if (row(&device.image->rules[r].sensor) == index) evaluate(device, r);
  }
}

void dwellOver(Device& device, uint8_t r) { evaluate(device, r); }

// No reading for too long: the rules that say so go off at once, whatever their dwell time.
void sensorStale(Device& device, uint8_t index) {
  device.sensors[index].fresh = false;
  device.sensors[index].due = false;
  log(device, WORDS("sensor "), row(&device.image->sensors[index].id), WORDS(": stale"));
  for (uint8_t r = 0; r < device.image->ruleCount; r++) {
    const Rule& rule = row(device.image->rules + r);
    if (rule.sensor == index && rule.staleOff && device.wishes[r] != Wish::off) decide(device, r, false);
  }
}

void applyWishes(Device& device, uint8_t channel) {
  for (uint8_t r = 0; r < device.image->ruleCount; r++) {
    const Rule& rule = row(device.image->rules + r);
    if (rule.channel == channel && device.wishes[r] != Wish::undecided)
      actOn(device, rule, device.wishes[r] == Wish::on);
  }
}

}  // namespace vestibule
