#include "inside.h"

namespace vestibule {

bool isStored(const Image& image, uint8_t channel) {
  const Channel& table = image.channels[channel];
  return table.powerUp == PowerUp::last || (table.powerUp == PowerUp::service && table.otherwiseLast);
}

static void change(Device& device, uint8_t index, bool on, Source source) {
  const Channel& table = device.image->channels[index];
  ChannelState& channel = device.channels[index];
  channel.on = on;
  channel.source = source;
  channel.seq++;
  channel.reportDue = true;
  if (on && table.maxOnMs > 0) arm(device, slotOf(*device.image, Slot::limit, index), table.maxOnMs);
  if (!on) {
    cancel(device, slotOf(*device.image, Slot::limit, index));
    if (table.minOffMs > 0) arm(device, slotOf(*device.image, Slot::offGap, index), table.minOffMs);
  }
  if (isStored(*device.image, index)) arm(device, slotOf(*device.image, Slot::store), device.image->storeMs);
}

// Turns on, now or as soon as minOffMs has passed. A limit runs from the turning on: asking again does not stretch it.
static void turnOn(Device& device, uint8_t index, Source source) {
  ChannelState& channel = device.channels[index];
  channel.reportDue = true;
  if (channel.on) return;
  if (isArmed(device, slotOf(*device.image, Slot::offGap, index))) {
    channel.waiting = true;
    channel.waitingSource = source;
  } else {
    change(device, index, true, source);
  }
}

static void turnOff(Device& device, uint8_t index, Source source) {
  ChannelState& channel = device.channels[index];
  channel.waiting = false;
  channel.reportDue = true;
  if (channel.on) change(device, index, false, source);
}

// The last command wins: it ends whatever the power-up still meant to do.
void command(Device& device, uint8_t index, Command action, Source source) {
  const size_t turn = slotOf(*device.image, Slot::turnOn, index);
  const bool meansOn = device.channels[index].on || device.channels[index].waiting || isArmed(device, turn);
  cancel(device, slotOf(*device.image, Slot::serviceWait, index));
  cancel(device, turn);
  if (action == Command::on || (action == Command::toggle && !meansOn)) {
    turnOn(device, index, source);
  } else {
    turnOff(device, index, source);
  }
}

static void turnOnInTurn(Device& device, uint8_t index, Source source) {
  const uint32_t at = difference(device.staggerNext, device.now) > 0 ? device.staggerNext : device.now;
  device.staggerNext = at + device.image->staggerMs;
  if (at == device.now) {
    turnOn(device, index, source);
  } else {
    device.channels[index].staggeredBy = source;
    arm(device, slotOf(*device.image, Slot::turnOn, index), at - device.now);
  }
}

static void restoreLast(Device& device, uint8_t index) {
  if (device.hasStored && device.channels[index].stored) turnOnInTurn(device, index, Source::power);
}

void powerUpChannel(Device& device, uint8_t index) {
  const Channel& table = device.image->channels[index];
  if (table.minOffMs > 0) arm(device, slotOf(*device.image, Slot::offGap, index), table.minOffMs);
  if (table.powerUp == PowerUp::on) {
    turnOnInTurn(device, index, Source::power);
  } else if (table.powerUp == PowerUp::last) {
    restoreLast(device, index);
  } else if (table.powerUp == PowerUp::service) {
    arm(device, slotOf(*device.image, Slot::serviceWait, index), table.waitMs);
  }
}

void learnedFromWall(Device& device, uint8_t index, bool closed) {
  if (device.image->channels[index].powerUp == PowerUp::wall && closed) turnOnInTurn(device, index, Source::wall);
}

void servedAtPowerUp(Device& device, uint8_t index, bool on) {
  cancel(device, slotOf(*device.image, Slot::serviceWait, index));
  device.channels[index].reportDue = true;
  if (on) turnOnInTurn(device, index, Source::service);
}

void limitReached(Device& device, uint8_t index) { turnOff(device, index, Source::limit); }

void offGapOver(Device& device, uint8_t index) {
  ChannelState& channel = device.channels[index];
  if (!channel.waiting) return;
  channel.waiting = false;
  turnOn(device, index, channel.waitingSource);
}

void staggerTurn(Device& device, uint8_t index) { turnOn(device, index, device.channels[index].staggeredBy); }

void serviceWaitOver(Device& device, uint8_t index) {
  if (device.image->channels[index].otherwiseLast) restoreLast(device, index);
}

void storeDue(Device& device) {
  bool differs = !device.hasStored;
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    const bool bit = isStored(*device.image, i) && device.channels[i].on;
    if (bit != device.channels[i].stored) differs = true;
  }
  if (!differs) return;
  for (uint8_t i = 0; i < device.image->channelCount; i++) device.channels[i].stored = isStored(*device.image, i) && device.channels[i].on;
  device.hasStored = true;
  device.port->store(device.port->context);
}

}  // namespace vestibule
