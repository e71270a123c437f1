#include "inside.h"

namespace vestibule {

// Asks to be turned on as part of a power-up, in turn.
static void turnOnInTurn(Device& device, uint8_t index, uint8_t level, Source source) {
  device.channels[index].staggeredLevel = level;
  device.channels[index].staggeredSource = source;
  device.channels[index].reportDue = true;
  device.turnsDue = true;
}

// Channels that a power-up turns on follow each other by staggerMs, so that the coils do not pull in together: in
// channel order, whatever asked.
void giveTurns(Device& device) {
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    const uint8_t level = device.channels[i].staggeredLevel;
    if (level == 0) continue;
    const int32_t wait = difference(device.staggerNext, device.now);
    if (wait > 0) return arm(device, slotOf(*device.image, Slot::turn), static_cast<uint32_t>(wait));
    device.channels[i].staggeredLevel = 0;
    device.staggerNext = device.now + device.image->staggerMs;
    goTo(device, i, level, device.channels[i].staggeredSource);
  }
  device.turnsDue = false;
}

static void restoreLast(Device& device, uint8_t index) {
  const uint8_t level = device.hasStored ? device.channels[index].storedLevel : 0;
  if (level > 0) turnOnInTurn(device, index, level, Source::power);
}

// Pulsed and paired channels never act at power-up. How long the power was away is not known: dead time and least time
// off run from its coming back.
void powerUpChannel(Device& device, uint8_t index) {
  const Channel& table = row(device.image->channels + index);
  if (table.kind == ChannelKind::paired && table.gapMs > 0)
    arm(device, slotOf(*device.image, Slot::gap, index), table.gapMs);
  if (!isLasting(table.kind)) return;
  if (table.minOffMs > 0) arm(device, slotOf(*device.image, Slot::offGap, index), table.minOffMs);
  if (table.powerUp == PowerUp::on) {
    turnOnInTurn(device, index, device.channels[index].lastLevel, Source::power);
  } else if (table.powerUp == PowerUp::last) {
    restoreLast(device, index);
  } else if (table.powerUp >= PowerUp::service) {
    arm(device, slotOf(*device.image, Slot::serviceWait, index), table.waitMs);
  }
}

void learnedFromWall(Device& device, uint8_t index, uint8_t level) {
  const Channel& table = row(device.image->channels + index);
  if (table.powerUp != PowerUp::wall || level == 0) return;
  const uint8_t wanted = level == LAST_LEVEL ? device.channels[index].lastLevel : level < table.top ? level : table.top;
  turnOnInTurn(device, index, wanted, Source::wall);
}

void servedAtPowerUp(Device& device, uint8_t index, uint8_t level) {
  cancel(device, slotOf(*device.image, Slot::serviceWait, index));
  device.channels[index].reportDue = true;
  if (level > 0) turnOnInTurn(device, index, level, Source::service);
}

void timedAtPowerUp(Device& device, uint8_t index, uint8_t level) {
  cancel(device, slotOf(*device.image, Slot::serviceWait, index));
  device.channels[index].reportDue = true;
  if (level == NO_LEVEL) return serviceWaitOver(device, index);
  const uint8_t top = row(&device.image->channels[index].top);
  if (level > 0) turnOnInTurn(device, index, level < top ? level : top, Source::schedule);
}

void serviceWaitOver(Device& device, uint8_t index) {
  if (row(&device.image->channels[index].otherwiseLast)) restoreLast(device, index);
}

}  // namespace vestibule
