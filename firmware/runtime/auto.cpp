#include "inside.h"

namespace vestibule {

static void setChannelMode(Device& device, uint8_t index, bool isAuto) {
  ChannelState& channel = device.channels[index];
  cancel(device, slotOf(*device.image, Slot::yield, index));
  channel.reportDue = true;
  if (channel.isAuto == isAuto) return;
  channel.isAuto = isAuto;
  device.modeDue = true;
  storeSoon(device);
}

// May a hand's command act on a channel in auto? `yield` keeps the rules away for a while, `leave` goes to manual,
// `ignore` refuses, but never what turns off.
bool handInAuto(Device& device, uint8_t index, Action action, uint8_t level) {
  const Channel* table = device.image->channels + index;
  ChannelState& channel = device.channels[index];
  switch (device.image->hand) {
    case Hand::ignore: {
      uint8_t target = 0;
      if (row(&table->kind) != ChannelKind::pulsed && targetOf(device, index, action, level, target) && target == 0)
        return true;
      channel.reportDue = true;
      log(device, row(&table->topic), WORDS(": in auto, ignored"), WORDS(""));
      return false;
    }
    case Hand::yield:
      arm(device, slotOf(*device.image, Slot::yield, index), device.image->yieldMs);
      channel.reportDue = true;
      return true;
    case Hand::leave: setChannelMode(device, index, false); return true;
  }
  return true;
}

void setMode(Device& device, bool isAuto) {
  if (device.mirrors) return sayMode(device, isAuto);
  device.modeDue = true;
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    if (!row(&device.image->channels[i].ruled)) continue;
    setChannelMode(device, i, isAuto);
    if (isAuto) applyWishes(device, i);
  }
}

void yieldOver(Device& device, uint8_t index) {
  device.channels[index].reportDue = true;
  applyWishes(device, index);
}

bool isAuto(const Device& device) {
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    if (device.channels[i].isAuto) return true;
  }
  return false;
}

}  // namespace vestibule
