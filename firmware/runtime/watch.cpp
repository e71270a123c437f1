#include "inside.h"

namespace vestibule {

// Is the hub alive? Heard means: a heartbeat within watchMs, over a link that is up. Unheard for graceMs more, the
// feeds go local; heard again for steadyMs without a break, they are detached and closed, so that the lamps have power.
void startWatch(Device& device) {
  device.heard = false;
  device.local = false;
  if (device.image->watches) arm(device, slotOf(*device.image, Slot::grace), device.image->graceMs);
}

// A retained heartbeat says only that the hub lived once.
void heartbeatHeard(Device& device, bool retain) {
  const Image& image = *device.image;
  if (!image.watches || retain || device.mirrors) return;
  arm(device, slotOf(image, Slot::watch), image.watchMs);
  if (device.heard) return;
  device.heard = true;
  cancel(device, slotOf(image, Slot::grace));
  if (device.local) arm(device, slotOf(image, Slot::steady), image.steadyMs);
}

void watchLost(Device& device) {
  const Image& image = *device.image;
  if (!image.watches || !device.heard) return;
  device.heard = false;
  cancel(device, slotOf(image, Slot::watch));
  cancel(device, slotOf(image, Slot::steady));
  if (!device.local) arm(device, slotOf(image, Slot::grace), image.graceMs);
}

void graceOver(Device& device) {
  device.local = true;
  log(device, WORDS("watch: hub not heard, feeds are local"), WORDS(""), WORDS(""));
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    if (isFeed(row(&device.image->channels[i].kind))) device.channels[i].reportDue = true;
  }
}

void steadyOver(Device& device) {
  device.local = false;
  log(device, WORDS("watch: hub is steady, feeds are detached"), WORDS(""), WORDS(""));
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    if (isFeed(row(&device.image->channels[i].kind))) goTo(device, i, 1, Source::watch);
  }
}

}  // namespace vestibule
