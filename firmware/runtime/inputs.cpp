#include "inside.h"

namespace vestibule {

static void fire(Device& device, uint8_t index, Gesture gesture, uint8_t level = 0) {
  for (uint8_t i = 0; i < device.image->bindingCount; i++) {
    const Binding& binding = device.image->bindings[i];
    if (binding.input != index || binding.gesture != gesture) continue;
    Do action = Do::off;
    switch (binding.action) {
      case Action::off: action = Do::off; break;
      case Action::on: action = Do::on; break;
      case Action::toggle: action = Do::toggle; break;
      case Action::up: action = Do::up; break;
      case Action::down: action = Do::down; break;
      case Action::follow: action = device.inputs[index].settled != 0 ? Do::on : Do::off; break;
      case Action::level: action = Do::level; break;
    }
    command(device, binding.channel, action, level, Source::wall);
  }
}

static uint8_t levelOfCode(const Device& device, uint8_t index, uint8_t code) { return device.image->selectorCodes[device.image->inputs[index].firstCode + code]; }

// The first settled code fires nothing; it only tells a following channel where its rocker or selector stands.
static void learn(Device& device, uint8_t index) {
  const uint8_t code = device.inputs[index].code;
  device.inputs[index].settled = code;
  for (uint8_t i = 0; i < device.image->bindingCount; i++) {
    const Binding& binding = device.image->bindings[i];
    if (binding.input != index) continue;
    if (binding.gesture == Gesture::follow) learnedFromWall(device, binding.channel, code == 0 ? 0 : LAST_LEVEL);
    if (binding.gesture == Gesture::select && device.image->inputs[index].kind == InputKind::selector) {
      const uint8_t level = levelOfCode(device, index, code);
      if (level != NO_LEVEL) learnedFromWall(device, binding.channel, level);
    }
  }
}

static void codeChanges(Device& device, uint8_t index) {
  InputState& input = device.inputs[index];
  const Input& table = device.image->inputs[index];
  input.settled = input.code;
  if (table.kind == InputKind::selector) {
    const uint8_t level = levelOfCode(device, index, input.code);
    // a code that is not in the table keeps the last level and is reported
    if (level == NO_LEVEL) {
      logCode(device, table.id, input.code);
    } else {
      fire(device, index, Gesture::select, level);
    }
    return;
  }
  if (table.kind == InputKind::rocker) {
    fire(device, index, Gesture::flip);
    fire(device, index, Gesture::follow);
    return;
  }
  if (input.code != 0) {
    input.holdFired = false;
    if (table.holdMs > 0) {
      arm(device, slotOf(*device.image, Slot::hold, index), table.holdMs);
    } else {
      fire(device, index, Gesture::press);
    }
    return;
  }
  if (table.holdMs > 0) {
    cancel(device, slotOf(*device.image, Slot::hold, index));
    if (!input.holdFired) fire(device, index, Gesture::press);
  }
  fire(device, index, Gesture::release);
}

void levelArrives(Device& device, uint8_t index, uint8_t bit, uint8_t level) {
  InputState& input = device.inputs[index];
  const Input& table = device.image->inputs[index];
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
  const Input& table = device.image->inputs[index];
  if (device.inputs[index].settled == UNKNOWN) {
    learn(device, index);
  } else if (device.inputs[index].code != device.inputs[index].settled) {
    codeChanges(device, index);
    if (table.settle == Settle::eager) arm(device, slotOf(*device.image, Slot::settle, index), table.settleMs);
  }
}

void held(Device& device, uint8_t index) {
  device.inputs[index].holdFired = true;
  fire(device, index, Gesture::hold);
}

}  // namespace vestibule
