// What the runtime asks about a kind of channel: the counterpart of core/site/kinds, held against it by kinds.test.ts.
#ifndef VESTIBULE_KINDS_H
#define VESTIBULE_KINDS_H

#include "tables.h"

namespace vestibule {

/// Its state as it is reported: on or off, on with a level, or a word.
enum class Report : uint8_t { on, level, words };

/// Stays as it is told: acts at power-up, and takes what a service remembers.
constexpr bool isLasting(ChannelKind kind) { return kind != ChannelKind::pulsed && kind != ChannelKind::paired; }
/// Its outputs have numbers: fan.1, fan.2.
constexpr bool isNumbered(ChannelKind kind) { return kind == ChannelKind::stepped || kind == ChannelKind::paired; }
/// Its last level is kept over a power cut whatever its policy.
constexpr bool keepsLastLevel(ChannelKind kind) { return kind == ChannelKind::stepped; }
/// Its longest time runs from when its contact really closes, not from its being told.
constexpr bool limitRunsFromContact(ChannelKind kind) { return kind != ChannelKind::pulsed; }
/// Smart lamps behind it, a hub before it.
constexpr bool isFeed(ChannelKind kind) { return kind == ChannelKind::feed; }
/// Commands to a group reach it. Feeds that are detached stay closed; a door must not open because somebody leaves.
constexpr bool joinsGroups(ChannelKind kind, bool local) {
  return kind != ChannelKind::pulsed && (kind != ChannelKind::feed || local);
}
constexpr Report reportOf(ChannelKind kind) {
  return !isLasting(kind) ? Report::words : kind == ChannelKind::stepped ? Report::level : Report::on;
}

/// The word for a level of a kind that reports words.
inline Words stateWord(ChannelKind kind, uint8_t level) {
  if (kind == ChannelKind::paired) return level == 0 ? WORDS("stop") : level == 1 ? WORDS("a") : WORDS("b");
  return level == 0 ? WORDS("idle") : WORDS("pulsing");
}

/// What means the same as a level, where a table has no such level; false: nothing does. `top` is the highest level.
inline bool saidAs(ChannelKind kind, uint8_t level, uint8_t top, Action& same) {
  if (kind == ChannelKind::pulsed) {
    same = Action::pulse;
    return level == 1;
  }
  if (kind == ChannelKind::paired) {
    same = level == 1 ? Action::a : level == 2 ? Action::b : Action::stop;
    return level <= 2;
  }
  same = level == 0 ? Action::off : Action::on;
  return level == 0 || (top == 1 && level == 1);
}

}  // namespace vestibule

#endif
