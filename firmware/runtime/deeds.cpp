#include "inside.h"

namespace vestibule {

static bool takesPart(const Device& device, uint8_t channel) {
  return joinsGroups(row(&device.image->channels[channel].kind), device.local);
}

// A group's members in channel order. `off` spares essential ones. A toggle turns all off while any is on that `off`
// would turn off.
static void groupCommand(Device& device, uint8_t group, Action action, uint8_t level, Source source) {
  const Group& table = row(device.image->groups + group);
  if (action == Action::toggle) {
    action = Action::on;
    for (uint8_t i = 0; i < table.members && action == Action::on; i++) {
      const uint8_t member = row(device.image->members + table.firstMember + i);
      if (device.channels[member].level > 0 && takesPart(device, member) &&
          !row(&device.image->channels[member].essential))
        action = Action::off;
    }
  }
  for (uint8_t i = 0; i < table.members; i++) {
    const uint8_t member = row(device.image->members + table.firstMember + i);
    if (!takesPart(device, member) || (action == Action::off && row(&device.image->channels[member].essential)))
      continue;
    byHand(device, member, action, level, source);
  }
}

static void reportAll(Device& device) {
  for (uint8_t i = 0; i < device.image->channelCount; i++) device.channels[i].reportDue = true;
  for (uint8_t i = 0; i < device.image->sensorCount; i++) device.sensors[i].due = device.sensors[i].fresh;
  device.modeDue = true;
  device.statusDue = true;
}

static void controllerAction(Device& device, Action action) {
  switch (action) {
    case Action::autoOn: return modeByHand(device, true);
    case Action::manual: return modeByHand(device, false);
    case Action::autoToggle: return modeByHand(device, !isAuto(device));
    case Action::pair:
    case Action::reset:
      device.port->credentials(device.port->context, action == Action::reset);
      return log(device, action == Action::pair ? WORDS("pairing") : WORDS("credentials reset"), WORDS(""), WORDS(""));
    case Action::report: return reportAll(device);
    default: return;
  }
}

void doDeed(Device& device, const Deed& deed, Action action, uint8_t level, Source source) {
  switch (deed.on) {
    case Target::controller: return controllerAction(device, action);
    case Target::channel: return byHand(device, deed.index, action, level, source);
    case Target::group: return groupCommand(device, deed.index, action, level, source);
  }
}

}  // namespace vestibule
