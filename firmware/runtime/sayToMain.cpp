#include "inside.h"

namespace vestibule {

#ifdef VESTIBULE_NO_LINK

void sayToChannel(Device&, uint8_t, Action, uint8_t) {}
void sayMode(Device&, bool) {}

#else

static bool sayIf(Device& device, Target on, uint8_t index, Action action, uint8_t level) {
  for (uint8_t i = 0; i < device.image->characterCount; i++) {
    const Character& table = row(device.image->characters + i);
    if (table.deed.on != on || table.deed.action != action || (on == Target::channel && table.deed.index != index) ||
        (action == Action::level && table.deed.level != level))
      continue;
    device.port->say(device.port->context, table.character);
    return true;
  }
  return false;
}

// What else means the same for a channel as the main board's table has it: a level in words, a toggle by what is known.
static bool sameWord(const Device& device, uint8_t index, Action action, uint8_t level, Action& same) {
  const Channel* table = device.image->channels + index;
  if (action == Action::toggle) {
    same = device.channels[index].level > 0 ? Action::off : Action::on;
    return true;
  }
  if (action != Action::level) return false;
  return saidAs(row(&table->kind), level, row(&table->top), same);
}

// A command for a channel of the main board goes there as a character.
void sayToChannel(Device& device, uint8_t index, Action action, uint8_t level) {
  const Words topic = row(&device.image->channels[index].topic);
  if (!device.heard) return log(device, topic, WORDS(": main board not heard"), WORDS(""));
  Action same = action;
  if (sayIf(device, Target::channel, index, action, level)) return;
  if (sameWord(device, index, action, level, same) && sayIf(device, Target::channel, index, same, 0)) return;
  log(device, topic, WORDS(": no character for it"), WORDS(""));
}

// The mode of the main board.
void sayMode(Device& device, bool isAuto) {
  if (!device.heard) return log(device, WORDS("mode: main board not heard"), WORDS(""), WORDS(""));
  if (!sayIf(device, Target::controller, 0, isAuto ? Action::autoOn : Action::manual, 0))
    log(device, WORDS("mode: no character for it"), WORDS(""), WORDS(""));
}

#endif

}  // namespace vestibule
