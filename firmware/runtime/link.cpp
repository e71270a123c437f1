#include "inside.h"

namespace vestibule {

static const uint32_t FIRST_RETRY_MS = 1000;
static const uint32_t LAST_RETRY_MS = 60000;
static const uint32_t SERVICE_WINDOW_MS = 5000;

const char* nameOf(Source source) {
  switch (source) {
    case Source::power: return "power";
    case Source::wall: return "wall";
    case Source::app: return "app";
    case Source::hub: return "hub";
    case Source::service: return "service";
    case Source::limit: return "limit";
  }
  return "";
}

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

void linkChanges(Device& device, bool up) {
  const Image& image = *device.image;
  if (!image.link) return;
  if (up && device.link != LinkState::up) {
    device.link = LinkState::up;
    device.attempts = 0;
    device.announce = true;
    cancel(device, slotOf(image, Slot::join));
    arm(device, slotOf(image, Slot::heartbeat), image.heartbeatMs);
    if (image.outageService) {
      arm(device, slotOf(image, Slot::window), SERVICE_WINDOW_MS);
      for (uint8_t i = 0; i < image.pointCount; i++) device.heldBack[i] = true;
    }
  } else if (!up && device.link != LinkState::down) {
    device.link = LinkState::down;
    device.announce = false;
    cancel(device, slotOf(image, Slot::heartbeat));
    cancel(device, slotOf(image, Slot::window));
    for (uint8_t i = 0; i < image.pointCount; i++) device.heldBack[i] = false;
    for (uint8_t i = 0; i < image.channelCount; i++) {
      device.channels[i].reportDue = false;
      cancel(device, slotOf(image, Slot::reportGap, i));
    }
    arm(device, slotOf(image, Slot::join), retryMs(device));
  }
}

void windowOver(Device& device) {
  for (uint8_t i = 0; i < device.image->pointCount; i++) {
    if (device.heldBack[i]) device.channels[device.image->points[i].channel].reportDue = true;
    device.heldBack[i] = false;
  }
}

static Text topicText(const Device& device, char* buffer) {
  Text text = {buffer, LONGEST_TOPIC};
  append(text, device.image->prefix);
  return text;
}

static void publishLog(Device& device, const char* payload) {
  char topic[LONGEST_TOPIC];
  Text text = topicText(device, topic);
  append(text, "log");
  device.port->publish(device.port->context, topic, payload, false);
}

void log(Device& device, const char* first, const char* topic, const char* last) {
  if (device.link != LinkState::up) return;
  char payload[LONGEST_PAYLOAD];
  Text text = {payload, sizeof payload};
  append(text, first);
  append(text, topic);
  append(text, last);
  publishLog(device, payload);
}

void logPoint(Device& device, uint8_t vp, const char* last) {
  if (device.link != LinkState::up) return;
  char payload[LONGEST_PAYLOAD];
  Text text = {payload, sizeof payload};
  append(text, "vp");
  appendNumber(text, vp);
  append(text, last);
  publishLog(device, payload);
}

void logCode(Device& device, const char* selector, uint8_t code) {
  if (device.link != LinkState::up) return;
  char payload[LONGEST_PAYLOAD];
  Text text = {payload, sizeof payload};
  append(text, "selector ");
  append(text, selector);
  append(text, ": no level for code ");
  appendNumber(text, code);
  publishLog(device, payload);
}

static void reportChannel(Device& device, uint8_t index) {
  const Image& image = *device.image;
  const Channel& table = image.channels[index];
  ChannelState& channel = device.channels[index];
  char topic[LONGEST_TOPIC];
  char payload[LONGEST_PAYLOAD];
  channel.reportDue = false;
  if (image.minReportMs > 0) arm(device, slotOf(image, Slot::reportGap, index), image.minReportMs);
  if (table.reports) {
    Text where = topicText(device, topic);
    append(where, table.topic);
    append(where, "/state");
    Text what = {payload, sizeof payload};
    append(what, channel.level > 0 ? "{\"on\":true," : "{\"on\":false,");
    if (table.stepped) {
      append(what, "\"level\":");
      appendNumber(what, channel.level);
      append(what, ",");
    }
    append(what, "\"source\":\"");
    append(what, nameOf(channel.source));
    append(what, "\",\"seq\":");
    appendNumber(what, channel.seq);
    append(what, "}");
    device.port->publish(device.port->context, topic, payload, true);
  }
  for (uint8_t i = 0; i < image.pointCount; i++) {
    const Point& point = image.points[i];
    if (point.channel != index || !point.reports || device.heldBack[i]) continue;
    Text where = topicText(device, topic);
    append(where, "vp/");
    appendNumber(where, point.vp);
    append(where, "/state");
    Text what = {payload, sizeof payload};
    appendSigned(what, point.min + static_cast<int32_t>(channel.level) * (point.max - point.min) / table.top);
    device.port->publish(device.port->context, topic, payload, true);
  }
}

void heartbeat(Device& device) {
  arm(device, slotOf(*device.image, Slot::heartbeat), device.image->heartbeatMs);
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    device.channels[i].reportDue = true;
    cancel(device, slotOf(*device.image, Slot::reportGap, i));
  }
}

static void announce(Device& device) {
  static const char* const SUBSCRIPTIONS[] = {"+/set", "vp/+/set", "vp/+/held"};
  char topic[LONGEST_TOPIC];
  device.announce = false;
  Text status = topicText(device, topic);
  append(status, "status");
  device.port->publish(device.port->context, topic, "online", true);
  for (uint8_t i = 0; i < device.image->channelCount; i++) reportChannel(device, i);
  for (const char* subscription : SUBSCRIPTIONS) {
    Text text = topicText(device, topic);
    append(text, subscription);
    device.port->subscribe(device.port->context, topic);
  }
}

void sendReports(Device& device) {
  if (device.link != LinkState::up) return;
  if (device.announce) return announce(device);
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    if (device.channels[i].reportDue && !isArmed(device, slotOf(*device.image, Slot::reportGap, i))) reportChannel(device, i);
  }
}

}  // namespace vestibule
