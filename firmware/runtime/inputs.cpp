#include "inside.h"

namespace vestibule {

static void fire(Device& device, uint8_t index, Gesture gesture, uint8_t level = 0) {
  const bool closed = device.inputs[index].settled != 0;
  for (uint8_t i = 0; i < device.image->bindingCount; i++) {
    const Binding* at = device.image->bindings + i;
    if (row(&at->input) != index || row(&at->gesture) != gesture) continue;
    const Binding& binding = row(at);
    // A detached feed's switch speaks to the hub, which works the lamps; the relay stays closed.
    if (binding.deed.on == Target::channel && isFeed(row(&device.image->channels[binding.deed.index].kind)) &&
        !device.local) {
      tellHub(device, binding.deed.index, gesture, closed, level);
      continue;
    }
    const Action action = binding.deed.action != Action::follow ? binding.deed.action
                          : closed                              ? Action::on
                                                                : Action::off;
    doDeed(device, binding.deed, action, level, Source::wall);
  }
}

static uint8_t levelOfCode(const Device& device, const Input& table, uint8_t code) {
  return row(device.image->selectorCodes + table.firstCode + code);
}

// A position contact moved: the true state of its channels is another.
static void positionChanges(Device& device, uint8_t index) {
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    if (row(&device.image->channels[i].contact) != index) continue;
    speakOf(device.channels[i], Source::contact);
    device.statusDue = true;
  }
}

// The first settled code fires nothing; it only tells a following channel where its rocker or selector stands.
static void learn(Device& device, uint8_t index) {
  const uint8_t code = device.inputs[index].code;
  device.inputs[index].settled = code;
  const Input& table = row(device.image->inputs + index);
  if (table.kind == InputKind::contact) return positionChanges(device, index);
  for (uint8_t i = 0; i < device.image->bindingCount; i++) {
    const Binding* at = device.image->bindings + i;
    if (row(&at->input) != index) continue;
    const Binding& binding = row(at);
    if (binding.deed.on != Target::channel) continue;
    if (binding.gesture == Gesture::follow) learnedFromWall(device, binding.deed.index, code == 0 ? 0 : LAST_LEVEL);
    if (binding.gesture == Gesture::select && table.kind == InputKind::selector) {
      const uint8_t level = levelOfCode(device, table, code);
      if (level != NO_LEVEL) learnedFromWall(device, binding.deed.index, level);
    }
  }
}

static void codeChanges(Device& device, uint8_t index) {
  InputState& input = device.inputs[index];
  const Input& table = row(device.image->inputs + index);
  input.settled = input.code;
  switch (table.kind) {
    case InputKind::contact: return positionChanges(device, index);
    case InputKind::selector: {
      const uint8_t level = levelOfCode(device, table, input.code);
      // a code that is not in the table keeps the last level and is reported
      if (level == NO_LEVEL) return logCode(device, table.id, input.code);
      return fire(device, index, Gesture::select, level);
    }
    case InputKind::rocker: fire(device, index, Gesture::flip); return fire(device, index, Gesture::follow);
    case InputKind::momentary: break;
  }
  if (input.code != 0) {
    input.pressed = true;
    input.holdFired = false;
    if (table.holdMs > 0) return arm(device, slotOf(*device.image, Slot::hold, index), table.holdMs);
    return fire(device, index, Gesture::press);
  }
  // held since before the power came: its opening means nothing
  if (!input.pressed) return;
  input.pressed = false;
  if (table.holdMs > 0) {
    cancel(device, slotOf(*device.image, Slot::hold, index));
    if (!input.holdFired) fire(device, index, Gesture::press);
  }
  fire(device, index, Gesture::release);
}

void levelArrives(Device& device, uint8_t index, uint8_t bit, uint8_t level) {
  InputState& input = device.inputs[index];
  const Input& table = row(device.image->inputs + index);
  const uint8_t mask = static_cast<uint8_t>(1u << bit);
  const uint8_t code = static_cast<uint8_t>(level == table.closedLevel ? input.code | mask : input.code & ~mask);
  if (input.code == code) return;
  input.code = code;
  if (!device.powered) return;
  const size_t slot = slotOf(*device.image, Slot::settle, index);
  if (input.settled == UNKNOWN) {
    arm(device, slot, table.settleMs);
  } else if (table.settle == Settle::settle) {
    if (input.code == input.settled) {
      cancel(device, slot);
    } else {
      arm(device, slot, table.settleMs);
    }
  } else if (!isArmed(device, slot)) {
    codeChanges(device, index);
    arm(device, slot, table.settleMs);
  }
}

void settled(Device& device, uint8_t index) {
  if (device.inputs[index].settled == UNKNOWN) {
    learn(device, index);
  } else if (device.inputs[index].code != device.inputs[index].settled) {
    codeChanges(device, index);
    const Input& table = row(device.image->inputs + index);
    if (table.settle == Settle::eager) arm(device, slotOf(*device.image, Slot::settle, index), table.settleMs);
  }
}

void held(Device& device, uint8_t index) {
  device.inputs[index].holdFired = true;
  fire(device, index, Gesture::hold);
}

}  // namespace vestibule
