#include "inside.h"

namespace vestibule {

bool levelIsStored(const Image& image, uint8_t channel) {
  const Channel& table = image.channels[channel];
  return table.powerUp == PowerUp::last || (table.powerUp == PowerUp::service && table.otherwiseLast);
}

bool isStored(const Image& image, uint8_t channel) { return levelIsStored(image, channel) || image.channels[channel].stepped; }

static void change(Device& device, uint8_t index, uint8_t level, Source source) {
  const Channel& table = device.image->channels[index];
  ChannelState& channel = device.channels[index];
  const bool wasOff = channel.level == 0;
  channel.level = level;
  if (level > 0) channel.lastLevel = level;
  channel.source = source;
  channel.seq++;
  channel.reportDue = true;
  if (level > 0 && wasOff && table.maxOnMs > 0) arm(device, slotOf(*device.image, Slot::limit, index), table.maxOnMs);
  if (level == 0) {
    cancel(device, slotOf(*device.image, Slot::limit, index));
    if (table.minOffMs > 0) arm(device, slotOf(*device.image, Slot::offGap, index), table.minOffMs);
  }
  if (isStored(*device.image, index)) arm(device, slotOf(*device.image, Slot::store), device.image->storeMs);
}

// Goes to a level, now or, from off, as soon as minOffMs has passed. A limit runs from the turning on: asking again does not stretch it.
static void goTo(Device& device, uint8_t index, uint8_t level, Source source) {
  ChannelState& channel = device.channels[index];
  channel.reportDue = true;
  if (level == 0) {
    channel.waitingLevel = 0;
    if (channel.level != 0) change(device, index, 0, source);
  } else if (channel.level != 0) {
    if (channel.level != level) change(device, index, level, source);
  } else if (isArmed(device, slotOf(*device.image, Slot::offGap, index))) {
    channel.waitingLevel = level;
    channel.waitingSource = source;
  } else {
    change(device, index, level, source);
  }
}

static uint8_t target(const Device& device, uint8_t index, Do action, uint8_t level, uint8_t meant) {
  const Channel& table = device.image->channels[index];
  const uint8_t last = device.channels[index].lastLevel;
  switch (action) {
    case Do::off: return 0;
    case Do::on: return meant != 0 ? meant : last;
    case Do::toggle: return meant != 0 ? 0 : last;
    case Do::up: return meant < table.top ? static_cast<uint8_t>(meant + 1) : table.wrap ? static_cast<uint8_t>(0) : table.top;
    case Do::down: return meant > 0 ? static_cast<uint8_t>(meant - 1) : table.wrap ? table.top : static_cast<uint8_t>(0);
    case Do::level: return level < table.top ? level : table.top;
  }
  return 0;
}

// The last command wins: it ends whatever the power-up still meant to do.
void command(Device& device, uint8_t index, Do action, uint8_t level, Source source) {
  const ChannelState& channel = device.channels[index];
  const size_t turn = slotOf(*device.image, Slot::turnOn, index);
  uint8_t meant = channel.level;
  if (meant == 0) meant = channel.waitingLevel;
  if (meant == 0 && isArmed(device, turn)) meant = channel.staggeredLevel;
  cancel(device, slotOf(*device.image, Slot::serviceWait, index));
  cancel(device, turn);
  goTo(device, index, target(device, index, action, level, meant), source);
}

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

void powerUpChannel(Device& device, uint8_t index) {
  const Channel& table = device.image->channels[index];
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
  const Channel& table = device.image->channels[index];
  if (table.powerUp != PowerUp::wall || level == 0) return;
  const uint8_t wanted = level == LAST_LEVEL ? device.channels[index].lastLevel : level < table.top ? level : table.top;
  turnOnInTurn(device, index, wanted, Source::wall);
}

void servedAtPowerUp(Device& device, uint8_t index, uint8_t level) {
  cancel(device, slotOf(*device.image, Slot::serviceWait, index));
  device.channels[index].reportDue = true;
  if (level > 0) turnOnInTurn(device, index, level, Source::service);
}

void limitReached(Device& device, uint8_t index) { goTo(device, index, 0, Source::limit); }

void offGapOver(Device& device, uint8_t index) {
  ChannelState& channel = device.channels[index];
  const uint8_t level = channel.waitingLevel;
  if (level == 0) return;
  channel.waitingLevel = 0;
  goTo(device, index, level, channel.waitingSource);
}

void staggerTurn(Device& device, uint8_t index) { goTo(device, index, device.channels[index].staggeredLevel, device.channels[index].staggeredSource); }

void serviceWaitOver(Device& device, uint8_t index) {
  if (device.image->channels[index].otherwiseLast) restoreLast(device, index);
}

void storeDue(Device& device) {
  bool differs = !device.hasStored;
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    const ChannelState& channel = device.channels[i];
    const uint8_t level = levelIsStored(*device.image, i) ? channel.level : 0;
    if (level != channel.storedLevel || (device.image->channels[i].stepped && channel.lastLevel != channel.storedLast)) differs = true;
  }
  if (!differs) return;
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    ChannelState& channel = device.channels[i];
    channel.storedLevel = levelIsStored(*device.image, i) ? channel.level : 0;
    channel.storedLast = channel.lastLevel;
  }
  device.hasStored = true;
  device.port->store(device.port->context);
}

void writeContact(Device& device, uint8_t index, uint8_t contact, bool closed) {
  // Polarity is applied here, once.
  device.port->output(device.port->context, index, contact, closed, closed != device.image->channels[index].activeLow);
}

static void writeContacts(Device& device, uint8_t index, uint8_t mask) {
  const uint8_t changed = device.channels[index].closed ^ mask;
  device.channels[index].closed = mask;
  for (uint8_t contact = 0; contact < device.image->channels[index].contacts; contact++) {
    if ((changed >> contact & 1) != 0) writeContact(device, index, contact, (mask >> contact & 1) != 0);
  }
}

// Opens first what must open; closes what must close once gapMs has passed since the last opening. A change of mind during the
// gap only changes what is closed at its end.
void commitChannel(Device& device, uint8_t index) {
  const Channel& table = device.image->channels[index];
  const ChannelState& channel = device.channels[index];
  const uint8_t wanted = device.image->patterns[table.firstPattern + channel.level];
  const size_t gap = slotOf(*device.image, Slot::gap, index);
  if ((channel.closed & ~wanted) != 0) {
    writeContacts(device, index, channel.closed & wanted);
    if (table.gapMs > 0) arm(device, gap, table.gapMs);
  }
  if (channel.closed != wanted && !isArmed(device, gap)) writeContacts(device, index, wanted);
}

}  // namespace vestibule
