#include "inside.h"

namespace vestibule {

static bool takesPart(const Device& device, uint8_t channel) {
  return joinsGroups(row(&device.image->channels[channel].kind), device.local);
}

// A group's members in channel order. `off` spares essential ones. A toggle turns all off while any is on that `off`
// would turn off. `on` gives each member its level where the group has levels; one of 0 spares essential members too.
void groupCommand(Device& device, uint8_t group, Action action, uint8_t level, Source source) {
  const uint8_t first = row(&device.image->groups[group].firstMember);
  const uint8_t members = row(&device.image->groups[group].members);
  if (action == Action::toggle) {
    action = Action::on;
    for (uint8_t i = 0; i < members && action == Action::on; i++) {
      const uint8_t member = row(device.image->members + first + i);
      if (device.channels[member].level > 0 && takesPart(device, member) &&
          !row(&device.image->channels[member].essential))
        action = Action::off;
    }
  }
  for (uint8_t i = 0; i < members; i++) {
    const uint8_t member = row(device.image->members + first + i);
    const uint8_t given = action == Action::on && device.image->memberLevels != nullptr
                              ? row(device.image->memberLevels + first + i)
                              : NO_LEVEL;
    if (!takesPart(device, member) ||
        ((action == Action::off || given == 0) && row(&device.image->channels[member].essential)))
      continue;
    if (given == NO_LEVEL) {
      byHand(device, member, action, level, source);
    } else {
      byHand(device, member, Action::level, given, source);
    }
  }
}

void reportAll(Device& device) {
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
