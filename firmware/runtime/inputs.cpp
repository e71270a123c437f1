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

// A selector's level counts only while its gate is closed; before that has settled it is not known.
static uint8_t gateOf(const Device& device, uint8_t index) {
  const uint8_t gate = device.image->gates != nullptr ? row(device.image->gates + index) : NO_INPUT;
  return gate == NO_INPUT ? 1 : device.inputs[gate].settled;
}

// The level that a selector gives: of its code, and 0 while its gate is open.
static uint8_t levelOfSelector(const Device& device, uint8_t index) {
  if (gateOf(device, index) == 0) return 0;
  return row(device.image->selectorCodes + row(&device.image->inputs[index].firstCode) + device.inputs[index].settled);
}

// A position contact moved: the true state of its channels is another.
static void positionChanges(Device& device, uint8_t index) {
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    if (row(&device.image->channels[i].contact) != index) continue;
    speakOf(device.channels[i], Source::contact);
    device.statusDue = true;
  }
}

static void learnBindings(Device& device, uint8_t index) {
  for (uint8_t i = 0; i < device.image->bindingCount; i++) {
    const Binding* at = device.image->bindings + i;
    if (row(&at->input) != index) continue;
    const Binding& binding = row(at);
    if (binding.deed.on != Target::channel) continue;
    if (binding.gesture == Gesture::follow)
      learnedFromWall(device, binding.deed.index, device.inputs[index].code == 0 ? 0 : LAST_LEVEL);
    if (binding.gesture == Gesture::select && row(&device.image->inputs[index].kind) == InputKind::selector &&
        gateOf(device, index) != UNKNOWN) {
      const uint8_t level = levelOfSelector(device, index);
      if (level != NO_LEVEL) learnedFromWall(device, binding.deed.index, level);
    }
  }
}

// A selector or its gate moved. A code that is not in the table keeps the last level and is reported.
static void selectorMoves(Device& device, uint8_t index) {
  const uint8_t level = levelOfSelector(device, index);
  if (level == NO_LEVEL) return logCode(device, row(&device.image->inputs[index].id), device.inputs[index].settled);
  fire(device, index, Gesture::select, level);
}

// Selectors that count only while this input is closed, and that have settled.
static void gateMoves(Device& device, uint8_t index, bool learns) {
  for (uint8_t i = 0; i < device.image->inputCount; i++) {
    if (row(device.image->gates + i) != index || device.inputs[i].settled == UNKNOWN) continue;
    if (learns) {
      learnBindings(device, i);
    } else {
      selectorMoves(device, i);
    }
  }
}

// The first settled code fires nothing; it only tells a following channel where its rocker or selector stands.
static void learn(Device& device, uint8_t index) {
  device.inputs[index].settled = device.inputs[index].code;
  if (row(&device.image->inputs[index].kind) == InputKind::contact) return positionChanges(device, index);
  learnBindings(device, index);
  if (device.image->gates != nullptr) gateMoves(device, index, true);
}

static void codeChanges(Device& device, uint8_t index) {
  InputState& input = device.inputs[index];
  const Input* table = device.image->inputs + index;
  input.settled = input.code;
  switch (row(&table->kind)) {
    case InputKind::contact: return positionChanges(device, index);
    case InputKind::selector:
      // turned while its gate is open it starts nothing, and stops nothing that something else started
      if (gateOf(device, index) == 1) selectorMoves(device, index);
      return;
    case InputKind::rocker:
      fire(device, index, Gesture::flip);
      fire(device, index, Gesture::follow);
      if (device.image->gates != nullptr) gateMoves(device, index, false);
      return;
    case InputKind::momentary: break;
  }
  if (input.code != 0) {
    input.pressed = true;
    input.holdFired = false;
    if (row(&table->holdMs) > 0) return arm(device, slotOf(*device.image, Slot::hold, index), row(&table->holdMs));
    return fire(device, index, Gesture::press);
  }
  // held since before the power came: its opening means nothing
  if (!input.pressed) return;
  input.pressed = false;
  if (row(&table->holdMs) > 0) {
    cancel(device, slotOf(*device.image, Slot::hold, index));
    if (!input.holdFired) fire(device, index, Gesture::press);
  }
  fire(device, index, Gesture::release);
}

#ifdef VESTIBULE_FEW_WORDS
// nobody hears of it, or there is no room for the words
static void moves(const Device&, InputState&) {}
static void sayBounce(Device&, uint8_t) {}
#else
// Two moves of a contact that are closer are of one bounce, ms: no finger is as quick (common practice).
static const uint32_t BOUNCE_GAP_MS = 50;

static void moves(const Device& device, InputState& input) {
  if (device.now - input.movedAt >= BOUNCE_GAP_MS) input.movedFrom = device.now;
  input.movedAt = device.now;
}

// A contact that bounced for longer than it has yet: its settle time can be held against that.
static void sayBounce(Device& device, uint8_t index) {
  InputState& input = device.inputs[index];
  const uint32_t ms = input.movedAt - input.movedFrom;
  if ((ms > 255 ? 255 : ms) <= input.bounced) return;
  input.bounced = ms > 255 ? 255 : static_cast<uint8_t>(ms);
  logBounce(device, row(&device.image->inputs[index].id), input.bounced);
}
#endif

void levelArrives(Device& device, uint8_t index, uint8_t bit, uint8_t level) {
  InputState& input = device.inputs[index];
  const Input* table = device.image->inputs + index;  // read field by field: a row is long to copy
  const uint8_t mask = static_cast<uint8_t>(1u << bit);
  const uint8_t code = static_cast<uint8_t>(level == row(&table->closedLevel) ? input.code | mask : input.code & ~mask);
  if (input.code == code) return;
  input.code = code;
  if (!device.powered) return;
  moves(device, input);
  const size_t slot = slotOf(*device.image, Slot::settle, index);
  if (input.settled == UNKNOWN) {
    arm(device, slot, row(&table->settleMs));
  } else if (row(&table->settle) == Settle::settle) {
    if (input.code == input.settled) {
      cancel(device, slot);
    } else {
      arm(device, slot, row(&table->settleMs));
    }
  } else if (!isArmed(device, slot)) {
    codeChanges(device, index);
    arm(device, slot, row(&table->settleMs));
  }
}

void settled(Device& device, uint8_t index) {
  if (device.inputs[index].settled != UNKNOWN) sayBounce(device, index);
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
