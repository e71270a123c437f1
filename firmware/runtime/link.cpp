#include "inside.h"

namespace vestibule {

#ifdef VESTIBULE_NO_LINK

void join(Device&, uint8_t) {}
void joinAll(Device&) {}
void forgetLinks(Device& device) {
  for (uint8_t i = 0; i < device.image->pointCount; i++) device.heldBack[i] = false;
}
void linkChanges(Device&, uint8_t, bool) {}
void windowOver(Device&, uint8_t) {}

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
static uint32_t retryMs(Device& device, LinkRecord& link) {
  uint32_t base = FIRST_RETRY_MS << link.attempts;
  if (base > LAST_RETRY_MS) base = LAST_RETRY_MS;
  if (link.attempts < 6) link.attempts++;
  return base * (800 + nextRandom(device) % 401) / 1000;
}

void join(Device& device, uint8_t link) {
  device.links[link].state = LinkState::joining;
  device.port->join(device.port->context, link);
}

void joinAll(Device& device) {
  for (uint8_t i = 0; i < device.image->linkCount; i++) join(device, i);
}

void forgetLinks(Device& device) {
  for (uint8_t i = 0; i < device.image->linkCount; i++)
    device.links[i] = LinkRecord{LinkState::down, 0, false, false, 0};
  for (uint8_t i = 0; i < device.image->pointCount; i++) device.heldBack[i] = false;
}

bool anyUp(const Device& device) {
  for (uint8_t i = 0; i < device.image->linkCount; i++) {
    if (isUp(device, i)) return true;
  }
  return false;
}

// What a service remembers of a door or a reading never wins, so their reports need not wait for it.
static bool maySpeakFirst(const Device& device, const Point& point) {
  if (point.carries != Carries::channel) return point.carries == Carries::mode;
  return isLasting(row(&device.image->channels[point.index].kind));
}

static void linkUp(Device& device, uint8_t index) {
  const Image& image = *device.image;
  LinkRecord& link = device.links[index];
  // full reports go to all links at once, so the first that comes up starts them
  if (!anyUp(device)) arm(device, slotOf(image, Slot::heartbeat), image.heartbeatMs);
  link.state = LinkState::up;
  link.attempts = 0;
  link.announce = true;
  link.told = 0;
  cancel(device, slotOf(image, Slot::join, index));
  const bool outage = link.wasUp;
  link.wasUp = true;
  // before the first time there was no outage: what happens then, the power-up policies say
  if (!outage || !row(&image.links[index].outageService)) return;
  arm(device, slotOf(image, Slot::window, index), SERVICE_WINDOW_MS);
  for (uint8_t i = 0; i < image.pointCount; i++) {
    const Point& point = row(image.points + i);
    if (point.link == index) device.heldBack[i] = maySpeakFirst(device, point);
  }
}

// What waits to be said waits for nobody: the next link that comes up gets everything.
static void nobodyHears(Device& device) {
  const Image& image = *device.image;
  cancel(device, slotOf(image, Slot::heartbeat));
  device.modeDue = false;
  for (uint8_t i = 0; i < image.channelCount; i++) {
    device.channels[i].reportDue = false;
    cancel(device, slotOf(image, Slot::reportGap, i));
  }
  for (uint8_t i = 0; i < image.sensorCount; i++) {
    device.sensors[i].due = false;
    cancel(device, slotOf(image, Slot::sensorDue, i));
  }
}

static void linkDown(Device& device, uint8_t index) {
  const Image& image = *device.image;
  LinkRecord& link = device.links[index];
  link.state = LinkState::down;
  link.announce = false;
  cancel(device, slotOf(image, Slot::window, index));
  for (uint8_t i = 0; i < image.pointCount; i++) {
    if (row(&image.points[i].link) == index) device.heldBack[i] = false;
  }
  if (!anyUp(device)) nobodyHears(device);
  if (image.own && row(&image.links[index].own) && !device.mirrors) watchLost(device);
  arm(device, slotOf(image, Slot::join, index), retryMs(device, link));
}

void linkChanges(Device& device, uint8_t link, bool up) {
  if ((!device.image->link && !device.mirrors) || link >= device.image->linkCount) return;
  const LinkState now = device.links[link].state;
  if (up && now != LinkState::up) {
    linkUp(device, link);
  } else if (!up && now != LinkState::down) {
    linkDown(device, link);
  }
}

void speakFirst(Device& device, Carries carries, uint8_t index) {
  for (uint8_t i = 0; i < device.image->pointCount; i++) {
    const Point& point = row(device.image->points + i);
    if (point.carries == carries && (carries == Carries::mode || point.index == index)) device.heldBack[i] = false;
  }
}

void windowOver(Device& device, uint8_t link) {
  for (uint8_t i = 0; i < device.image->pointCount; i++) {
    const Point& point = row(device.image->points + i);
    if (point.link != link || !device.heldBack[i]) continue;
    device.heldBack[i] = false;
    if (point.carries == Carries::channel) {
      device.channels[point.index].reportDue = true;
    } else {
      device.modeDue = true;
    }
  }
}

#endif

}  // namespace vestibule
