// Prints what the runtime holds true of each kind of channel, one line a kind: see kinds.test.ts.
#include <cstdint>
#include <cstdio>

#include "../runtime/kinds.h"

namespace {

using namespace vestibule;

const char* wordOf(Action action) {
  switch (action) {
    case Action::off: return "off";
    case Action::on: return "on";
    case Action::pulse: return "pulse";
    case Action::a: return "a";
    case Action::b: return "b";
    case Action::stop: return "stop";
    default: return "?";
  }
}

void print(const char* name, ChannelKind kind) {
  constexpr const char* REPORTS[] = {"on", "level", "words"};
  std::printf("%s lasting=%d numbered=%d keeps=%d contact=%d feed=%d groups=%d%d report=%s", name, isLasting(kind),
              isNumbered(kind), keepsLastLevel(kind), limitRunsFromContact(kind), isFeed(kind),
              joinsGroups(kind, false), joinsGroups(kind, true), REPORTS[static_cast<uint8_t>(reportOf(kind))]);
  for (uint8_t top = 1; top <= 3; top++) {
    for (uint8_t level = 0; level <= top; level++) {
      Action same = Action::report;
      std::printf(" %d/%d=%s", level, top, saidAs(kind, level, top, same) ? wordOf(same) : "none");
    }
  }
  if (reportOf(kind) == Report::words)
    for (uint8_t level = 0; level < 3; level++) std::printf(" state%d=%s", level, stateWord(kind, level));
  std::printf("\n");
}

}  // namespace

int main() {
  print("switched", ChannelKind::switched);
  print("stepped", ChannelKind::stepped);
  print("pulsed", ChannelKind::pulsed);
  print("paired", ChannelKind::paired);
  print("feed", ChannelKind::feed);
}
