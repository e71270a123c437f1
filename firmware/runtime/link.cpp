#include "inside.h"

namespace vestibule {

#ifdef VESTIBULE_NO_LINK

void join(Device&) {}
void linkChanges(Device&, bool) {}
void windowOver(Device&) {}

#else

static const uint32_t FIRST_RETRY_MS = 1000;
static const uint32_t LAST_RETRY_MS = 60000;
static const uint32_t SERVICE_WINDOW_MS = 5000;

// xorshift32 (Marsaglia 2003)
static uint32_t nextRandom(Device& device) {
  uint32_t x = device.random;
  x ^= x << 13;
  x ^= x >> 17;
  x ^= x << 5;
  device.random = x;
  return x;
}

// 1, 2, 4 … 60 s, each ±20 % in whole ms. 60000 * 1200 stays below 2^32.
static uint32_t retryMs(Device& device) {
  uint32_t base = FIRST_RETRY_MS << device.attempts;
  if (base > LAST_RETRY_MS) base = LAST_RETRY_MS;
  if (device.attempts < 6) device.attempts++;
  return base * (800 + nextRandom(device) % 401) / 1000;
}

void join(Device& device) {
  device.link = LinkState::joining;
  device.port->join(device.port->context);
}

// What a service remembers of a door or a reading never wins, so their reports need not wait for it.
static bool maySpeakFirst(const Device& device, const Point& point) {
  if (point.carries != Carries::channel) return point.carries == Carries::mode;
  return isLasting(row(&device.image->channels[point.index].kind));
}

static void linkUp(Device& device) {
  const Image& image = *device.image;
  device.link = LinkState::up;
  device.attempts = 0;
  device.announce = true;
  cancel(device, slotOf(image, Slot::join));
  arm(device, slotOf(image, Slot::heartbeat), image.heartbeatMs);
  const bool outage = device.wasUp;
  device.wasUp = true;
  // before the first time there was no outage: what happens then, the power-up policies say
  if (!outage || !image.outageService) return;
  arm(device, slotOf(image, Slot::window), SERVICE_WINDOW_MS);
  for (uint8_t i = 0; i < image.pointCount; i++) device.heldBack[i] = maySpeakFirst(device, row(image.points + i));
}

static void linkDown(Device& device) {
  const Image& image = *device.image;
  device.link = LinkState::down;
  device.announce = false;
  cancel(device, slotOf(image, Slot::heartbeat));
  cancel(device, slotOf(image, Slot::window));
  for (uint8_t i = 0; i < image.pointCount; i++) device.heldBack[i] = false;
  device.modeDue = false;
  for (uint8_t i = 0; i < image.channelCount; i++) {
    device.channels[i].reportDue = false;
    cancel(device, slotOf(image, Slot::reportGap, i));
  }
  for (uint8_t i = 0; i < image.sensorCount; i++) {
    device.sensors[i].due = false;
    cancel(device, slotOf(image, Slot::sensorDue, i));
  }
  if (!device.mirrors) watchLost(device);
  arm(device, slotOf(image, Slot::join), retryMs(device));
}

void linkChanges(Device& device, bool up) {
  if (!device.image->link && !device.mirrors) return;
  if (up && device.link != LinkState::up) {
    linkUp(device);
  } else if (!up && device.link != LinkState::down) {
    linkDown(device);
  }
}

void speakFirst(Device& device, Carries carries, uint8_t index) {
  if (!isArmed(device, slotOf(*device.image, Slot::window))) return;
  for (uint8_t i = 0; i < device.image->pointCount; i++) {
    const Point& point = row(device.image->points + i);
    if (point.carries == carries && (carries == Carries::mode || point.index == index)) device.heldBack[i] = false;
  }
}

void windowOver(Device& device) {
  for (uint8_t i = 0; i < device.image->pointCount; i++) {
    if (!device.heldBack[i]) continue;
    device.heldBack[i] = false;
    const Point& point = row(device.image->points + i);
    if (point.carries == Carries::channel) {
      device.channels[point.index].reportDue = true;
    } else {
      device.modeDue = true;
    }
  }
}

#endif

}  // namespace vestibule
