#include "inside.h"

namespace vestibule {

static Contact contactOf(const Device& device, uint8_t index) {
  return device.inputs[index].level == device.image->inputs[index].closedLevel ? Contact::closed : Contact::open;
}

static void fire(Device& device, uint8_t index, Gesture gesture) {
  for (uint8_t i = 0; i < device.image->bindingCount; i++) {
    const Binding& binding = device.image->bindings[i];
    if (binding.input != index || binding.gesture != gesture) continue;
    switch (binding.action) {
      case Action::off: command(device, binding.channel, Command::off, Source::wall); break;
      case Action::on: command(device, binding.channel, Command::on, Source::wall); break;
      case Action::toggle: command(device, binding.channel, Command::toggle, Source::wall); break;
      case Action::follow: command(device, binding.channel, device.inputs[index].contact == Contact::closed ? Command::on : Command::off, Source::wall); break;
    }
  }
}

// The first settled level fires nothing; it only tells a following channel where its rocker stands.
static void learn(Device& device, uint8_t index) {
  const Contact contact = contactOf(device, index);
  device.inputs[index].contact = contact;
  for (uint8_t i = 0; i < device.image->bindingCount; i++) {
    const Binding& binding = device.image->bindings[i];
    if (binding.input == index && binding.gesture == Gesture::follow) learnedFromWall(device, binding.channel, contact == Contact::closed);
  }
}

static void contactChanges(Device& device, uint8_t index) {
  InputState& input = device.inputs[index];
  const Input& table = device.image->inputs[index];
  input.contact = contactOf(device, index);
  if (table.kind == InputKind::rocker) {
    fire(device, index, Gesture::flip);
    fire(device, index, Gesture::follow);
    return;
  }
  if (input.contact == Contact::closed) {
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

void levelArrives(Device& device, uint8_t index, uint8_t level) {
  InputState& input = device.inputs[index];
  if (input.level == level) return;
  input.level = level;
  if (!device.powered) return;
  const Input& table = device.image->inputs[index];
  const size_t slot = slotOf(*device.image, Slot::settle, index);
  if (input.contact == Contact::unknown) {
    arm(device, slot, table.settleMs);
  } else if (table.settle == Settle::settle) {
    if (contactOf(device, index) == input.contact) {
      cancel(device, slot);
    } else {
      arm(device, slot, table.settleMs);
    }
  } else if (!isArmed(device, slot)) {
    contactChanges(device, index);
    arm(device, slot, table.settleMs);
  }
}

void settled(Device& device, uint8_t index) {
  const Input& table = device.image->inputs[index];
  if (device.inputs[index].contact == Contact::unknown) {
    learn(device, index);
  } else if (contactOf(device, index) != device.inputs[index].contact) {
    contactChanges(device, index);
    if (table.settle == Settle::eager) arm(device, slotOf(*device.image, Slot::settle, index), table.settleMs);
  }
}

void held(Device& device, uint8_t index) {
  device.inputs[index].holdFired = true;
  fire(device, index, Gesture::hold);
}

}  // namespace vestibule
