#include "inside.h"

namespace vestibule {

// Channels that a power-up turns on follow each other by staggerMs, so that the coils do not pull in together.
static void turnOnInTurn(Device& device, uint8_t index, uint8_t level, Source source) {
  const uint32_t at = difference(device.staggerNext, device.now) > 0 ? device.staggerNext : device.now;
  device.staggerNext = at + device.image->staggerMs;
  if (at == device.now) {
    goTo(device, index, level, source);
  } else {
    device.channels[index].staggeredLevel = level;
    device.channels[index].staggeredSource = source;
    arm(device, slotOf(*device.image, Slot::turnOn, index), at - device.now);
  }
}

static void restoreLast(Device& device, uint8_t index) {
  const uint8_t level = device.hasStored ? device.channels[index].storedLevel : 0;
  if (level > 0) turnOnInTurn(device, index, level, Source::power);
}

// Pulsed and paired channels never act at power-up.
void powerUpChannel(Device& device, uint8_t index) {
  const Channel& table = row(device.image->channels + index);
  if (!isLasting(table.kind)) return;
  if (table.minOffMs > 0) arm(device, slotOf(*device.image, Slot::offGap, index), table.minOffMs);
  if (table.powerUp == PowerUp::on) {
    turnOnInTurn(device, index, device.channels[index].lastLevel, Source::power);
  } else if (table.powerUp == PowerUp::last) {
    restoreLast(device, index);
  } else if (table.powerUp == PowerUp::service) {
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

void staggerTurn(Device& device, uint8_t index) {
  goTo(device, index, device.channels[index].staggeredLevel, device.channels[index].staggeredSource);
}

void serviceWaitOver(Device& device, uint8_t index) {
  if (row(&device.image->channels[index].otherwiseLast)) restoreLast(device, index);
}

}  // namespace vestibule
