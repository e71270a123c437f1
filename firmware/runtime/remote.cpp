#include "inside.h"

namespace vestibule {

// The same frame again within this time is the same press, ms (docs/behaviour.md, Commands).
static const uint32_t PRESS_WINDOW_MS = 250;

static bool isSame(const Frame& a, const Frame& b) {
  return a.protocol == b.protocol && a.address == b.address && a.command == b.command && a.toggle == b.toggle;
}

// A repeat frame, or the same frame within the window (a turned toggle bit makes it another), is the same press held
// on: it acts only for keys that repeat, and not more often than they say.
void frameArrives(Device& device, const Frame& frame, bool repeat) {
  const Image& image = *device.image;
  const size_t window = slotOf(image, Slot::pressWindow);
  const size_t pause = slotOf(image, Slot::keyRepeat);
  const bool isRepeat = frame.protocol == Protocol::necRepeat;
  const Frame heard = isRepeat ? device.lastFrame : frame;
  const bool same = isArmed(device, window) && isSame(heard, device.lastFrame);
  // A repeat whose press was not heard means nothing: nobody knows of which key.
  if ((repeat || isRepeat) && !same) return;
  device.lastFrame = heard;
  arm(device, window, PRESS_WINDOW_MS);
  const bool mayRepeat = !isArmed(device, pause);
  bool isKnown = false;
  for (uint8_t i = 0; i < image.keyCount; i++) {
    const Key* at = image.keys + i;
    if (row(&at->command) != heard.command || row(&at->address) != heard.address ||
        row(&at->protocol) != heard.protocol)
      continue;
    isKnown = true;
    const Key& key = row(at);
    if (same && (key.everyMs == 0 || !mayRepeat)) continue;
    if (key.everyMs > 0) arm(device, pause, key.everyMs);
    doDeed(device, key.deed, key.deed.action, key.deed.level, Source::remote);
  }
  // a key that nobody has taught: whoever teaches it reads it here
#ifndef VESTIBULE_FEW_WORDS
  if (!isKnown && !same) logKey(device, heard);
#endif
  (void)isKnown;
}

}  // namespace vestibule
