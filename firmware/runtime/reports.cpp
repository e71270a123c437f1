#include "inside.h"

namespace vestibule {

#ifdef VESTIBULE_NO_LINK

void heartbeat(Device&) {}
void sensorDue(Device&, uint8_t) {}
void sendReports(Device&) {}
void log(Device&, Words, Words, Words) {}
void logPoint(Device&, uint8_t, Words) {}
void logCode(Device&, Words, uint8_t) {}
void tellHub(Device&, uint8_t, Gesture, bool, uint8_t) {}

#else

Words nameOf(Source source) {
  switch (source) {
    case Source::power: return WORDS("power");
    case Source::wall: return WORDS("wall");
    case Source::remote: return WORDS("remote");
    case Source::app: return WORDS("app");
    case Source::hub: return WORDS("hub");
    case Source::nearby: return WORDS("nearby");
    case Source::serial: return WORDS("serial");
    case Source::service: return WORDS("service");
    case Source::limit: return WORDS("limit");
    case Source::rule: return WORDS("rule");
    case Source::schedule: return WORDS("schedule");
    case Source::watch: return WORDS("watch");
    case Source::contact: return WORDS("contact");
  }
  return WORDS("");
}

static Text topicText(const Device& device, char* buffer) {
  Text text = {buffer, LONGEST_TOPIC};
  append(text, device.image->prefix);
  return text;
}

static void logTo(Device& device, uint8_t link, const char* payload) {
  char topic[LONGEST_TOPIC];
  Text text = topicText(device, topic);
  append(text, WORDS("log"));
  device.port->publish(device.port->context, link, topic, payload, false);
}

static void publishLog(Device& device, const char* payload) {
  for (uint8_t i = 0; i < device.image->linkCount; i++) {
    if (isUp(device, i) && row(&device.image->links[i].logs)) logTo(device, i, payload);
  }
}

void log(Device& device, Words first, Words topic, Words last) {
  char payload[LONGEST_PAYLOAD];
  Text text = {payload, sizeof payload};
  append(text, first);
  append(text, topic);
  append(text, last);
  publishLog(device, payload);
}

void logPoint(Device& device, uint8_t vp, Words last) {
  char payload[LONGEST_PAYLOAD];
  Text text = {payload, sizeof payload};
  append(text, WORDS("vp"));
  appendNumber(text, vp);
  append(text, last);
  publishLog(device, payload);
}

void logCode(Device& device, Words selector, uint8_t code) {
  char payload[LONGEST_PAYLOAD];
  Text text = {payload, sizeof payload};
  append(text, WORDS("selector "));
  append(text, selector);
  append(text, WORDS(": no level for code "));
  appendNumber(text, code);
  publishLog(device, payload);
}

// The link on which the controller speaks of itself, if that is up.
static bool ownLink(const Device& device, uint8_t& link) {
  for (link = 0; link < device.image->linkCount; link++) {
    if (row(&device.image->links[link].own) && isUp(device, link)) return true;
  }
  return false;
}

// What a hand did to the switch of a detached feed.
void tellHub(Device& device, uint8_t channel, Gesture gesture, bool closed, uint8_t level) {
  uint8_t link = 0;
  if (!ownLink(device, link)) return;
  char topic[LONGEST_TOPIC];
  char payload[LONGEST_PAYLOAD];
  Text where = topicText(device, topic);
  append(where, row(&device.image->channels[channel].topic));
  append(where, WORDS("/gesture"));
  Text what = {payload, sizeof payload};
  switch (gesture) {
    case Gesture::press: append(what, WORDS("press")); break;
    case Gesture::release: append(what, WORDS("release")); break;
    case Gesture::hold: append(what, WORDS("hold")); break;
    case Gesture::flip: append(what, WORDS("flip")); break;
    case Gesture::follow: append(what, closed ? WORDS("closed") : WORDS("open")); break;
    case Gesture::select: appendNumber(what, level); break;
  }
  device.port->publish(device.port->context, link, topic, payload, false);
}

// The word for the state of a channel that reports words: of its level, or of where its door stands.
static Words wordOfState(const Device& device, uint8_t index, ChannelKind kind) {
  if (!hasContact(device, index)) return stateWord(kind, device.channels[index].level);
  bool closed = false;
  if (!doorIsClosed(device, index, closed)) return WORDS("unknown");
  return closed ? WORDS("closed") : WORDS("open");
}

static Words modeWord(const Device& device, uint8_t index) {
  if (!device.channels[index].isAuto) return WORDS("manual");
  return isArmed(device, slotOf(*device.image, Slot::yield, index)) ? WORDS("yield") : WORDS("auto");
}

static void statePayload(const Device& device, uint8_t index, Text& what) {
  const Channel& table = row(device.image->channels + index);
  const ChannelState& channel = device.channels[index];
  if (reportOf(table.kind) == Report::words) {
    append(what, WORDS("{\"state\":\""));
    append(what, wordOfState(device, index, table.kind));
    append(what, '"');
  } else {
    append(what, channel.level > 0 ? WORDS("{\"on\":true") : WORDS("{\"on\":false"));
    if (reportOf(table.kind) == Report::level) {
      append(what, WORDS(",\"level\":"));
      appendNumber(what, channel.level);
    }
  }
  if (channel.waitingLevel > 0 || channel.staggeredLevel > 0) append(what, WORDS(",\"waiting\":true"));
  // a status line says no modes
  if (!device.mirrors && (isFeed(table.kind) || table.ruled)) {
    append(what, WORDS(",\"mode\":\""));
    append(what, !isFeed(table.kind) ? modeWord(device, index) : device.local ? WORDS("local") : WORDS("detached"));
    append(what, '"');
  }
  append(what, WORDS(",\"source\":\""));
  append(what, nameOf(channel.source));
  append(what, WORDS("\",\"seq\":"));
  appendNumber(what, channel.seq);
  append(what, '}');
}

// The level that a point shows: of a door with a contact 1 is open.
static uint8_t shownLevel(const Device& device, uint8_t index) {
  if (!hasContact(device, index)) return device.channels[index].level;
  bool closed = false;
  return doorIsClosed(device, index, closed) && !closed ? 1 : 0;
}

// A point with fewer values than its stepped channel has levels says on and off.
bool isOnOffPoint(const Device& device, const Point& point) {
  if (point.carries != Carries::channel) return false;
  const Channel& table = row(device.image->channels + point.index);
  return table.kind == ChannelKind::stepped && point.max - point.min < table.top;
}

static Text pointTopic(const Device& device, char* topic, uint8_t vp) {
  Text where = topicText(device, topic);
  append(where, WORDS("vp/"));
  appendNumber(where, vp);
  append(where, WORDS("/state"));
  return where;
}

/// Links that are told something, as bits.
using Links = uint8_t;
static inline bool has(Links links, uint8_t link) { return (links >> link & 1) != 0; }

static void sayOwn(Device& device, Links links, const char* topic, const char* payload, bool retain) {
  for (uint8_t i = 0; i < device.image->linkCount; i++) {
    if (has(links, i) && row(&device.image->links[i].own))
      device.port->publish(device.port->context, i, topic, payload, retain);
  }
}

// A channel's state where the controller speaks of itself, then its points.
static void sayChannel(Device& device, uint8_t index, Links links) {
  const Image& image = *device.image;
  const Channel& table = row(image.channels + index);
  char topic[LONGEST_TOPIC];
  char payload[LONGEST_PAYLOAD];
  if (table.reports) {
    Text where = topicText(device, topic);
    append(where, table.topic);
    append(where, WORDS("/state"));
    Text what = {payload, sizeof payload};
    statePayload(device, index, what);
    sayOwn(device, links, topic, payload, true);
  }
  for (uint8_t i = 0; i < image.pointCount; i++) {
    const Point& point = row(image.points + i);
    if (point.carries != Carries::channel || point.index != index || !point.reports || device.heldBack[i]) continue;
    if (!has(links, point.link)) continue;
    pointTopic(device, topic, point.vp);
    Text what = {payload, sizeof payload};
    const uint8_t level = shownLevel(device, index);
    const int32_t shown = isOnOffPoint(device, point)
                              ? (level > 0 ? point.max : point.min)
                              : point.min + static_cast<int32_t>(level) * (point.max - point.min) / table.top;
    appendSigned(what, shown);
    device.port->publish(device.port->context, point.link, topic, payload, true);
  }
}

static void channelSaid(Device& device, uint8_t index) {
  const Image& image = *device.image;
  device.channels[index].reportDue = false;
  if (image.minReportMs > 0) arm(device, slotOf(image, Slot::reportGap, index), image.minReportMs);
}

static void saySensor(Device& device, uint8_t index, Links links) {
  const Image& image = *device.image;
  char topic[LONGEST_TOPIC];
  char payload[LONGEST_PAYLOAD];
  Text what = {payload, sizeof payload};
  appendThousandths(what, device.sensors[index].value);
  Text where = topicText(device, topic);
  append(where, WORDS("sensor/"));
  append(where, row(&image.sensors[index].id));
  sayOwn(device, links, topic, payload, false);
  for (uint8_t i = 0; i < image.pointCount; i++) {
    const Point& point = row(image.points + i);
    if (point.carries != Carries::sensor || point.index != index || !point.reports || !has(links, point.link)) continue;
    pointTopic(device, topic, point.vp);
    device.port->publish(device.port->context, point.link, topic, payload, true);
  }
}

static void sensorSaid(Device& device, uint8_t index) {
  SensorState& sensor = device.sensors[index];
  sensor.due = false;
  sensor.reported = sensor.value;
  sensor.everReported = true;
  arm(device, slotOf(*device.image, Slot::sensorDue, index), device.image->sensorMs);
}

static void sayModeTo(Device& device, Links links) {
  const Image& image = *device.image;
  char topic[LONGEST_TOPIC];
  char payload[LONGEST_PAYLOAD];
  if (device.mirrors) return;
  for (uint8_t i = 0; i < image.pointCount; i++) {
    const Point& point = row(image.points + i);
    if (point.carries != Carries::mode || !point.reports || device.heldBack[i] || !has(links, point.link)) continue;
    pointTopic(device, topic, point.vp);
    Text what = {payload, sizeof payload};
    appendSigned(what, isAuto(device) ? point.max : point.min);
    device.port->publish(device.port->context, point.link, topic, payload, true);
  }
  if (!image.modeTopic) return;
  Text where = topicText(device, topic);
  append(where, WORDS("mode/state"));
  sayOwn(device, links, topic, isAuto(device) ? "auto" : "manual", true);
}

static void subscribe(Device& device, uint8_t link, Words last) {
  char topic[LONGEST_TOPIC];
  Text text = topicText(device, topic);
  append(text, last);
  device.port->subscribe(device.port->context, link, topic);
}

static void logWord(Device& device, uint8_t link, Words first, Words second) {
  char payload[LONGEST_PAYLOAD];
  Text text = {payload, sizeof payload};
  append(text, first);
  append(text, second);
  logTo(device, link, payload);
}

// A link is up: online, everything, then its subscriptions. `all`: every link that is up gets everything in this
// instant; where another was up before, what waits to be said to that one goes on waiting.
static void announce(Device& device, uint8_t link, bool all) {
  const Image& image = *device.image;
  const Links only = static_cast<Links>(1u << link);
  const bool own = row(&image.links[link].own);
  char topic[LONGEST_TOPIC];
  device.links[link].announce = false;
  Text status = topicText(device, topic);
  append(status, WORDS("status"));
  const bool silent = device.mirrors && !device.heard;
  device.port->publish(device.port->context, link, topic, silent ? "offline" : "online", true);
  for (uint8_t i = 0; i < image.channelCount && !silent; i++) {
    if (all) channelSaid(device, i);
    sayChannel(device, i, only);
  }
  for (uint8_t i = 0; i < image.sensorCount; i++) {
    if (!device.sensors[i].fresh) continue;
    if (all) sensorSaid(device, i);
    saySensor(device, i, only);
  }
  if (all) device.modeDue = false;
  sayModeTo(device, only);
  if (own) subscribe(device, link, WORDS("+/set"));
  subscribe(device, link, WORDS("vp/+/set"));
  subscribe(device, link, WORDS("vp/+/held"));
  if (own && image.watches) {
    Text text = {topic, LONGEST_TOPIC};
    append(text, image.watchTopic);
    device.port->subscribe(device.port->context, link, topic);
  }
  if (!row(&image.links[link].logs)) return;
  logWord(device, link, WORDS("tables "), image.hash);
  if (image.scheduleCount > 0 && !device.clockKnown && !device.mirrors)
    logWord(device, link, WORDS("schedule: no clock"), WORDS(""));
}

// Reports of one instant: links that have come up, then for the others channels in order, sensors, the mode.
void sendReports(Device& device) {
  const Image& image = *device.image;
  Links others = 0;
  bool announces = false;
  for (uint8_t i = 0; i < image.linkCount; i++) {
    if (!isUp(device, i)) continue;
    if (device.links[i].announce) {
      announces = true;
    } else {
      others = static_cast<Links>(others | 1u << i);
    }
  }
  for (uint8_t i = 0; announces && i < image.linkCount; i++) {
    if (device.links[i].announce) announce(device, i, others == 0);
  }
  if (others == 0 || (device.mirrors && !device.heard)) return;
  for (uint8_t i = 0; i < image.channelCount; i++) {
    if (!device.channels[i].reportDue || isArmed(device, slotOf(image, Slot::reportGap, i))) continue;
    channelSaid(device, i);
    sayChannel(device, i, others);
  }
  for (uint8_t i = 0; i < image.sensorCount; i++) {
    if (!device.sensors[i].due || !device.sensors[i].fresh) continue;
    sensorSaid(device, i);
    saySensor(device, i, others);
  }
  if (!device.modeDue) return;
  device.modeDue = false;
  sayModeTo(device, others);
}

// All links get everything, as often as the controller is told to.
void heartbeat(Device& device) {
  arm(device, slotOf(*device.image, Slot::heartbeat), device.image->heartbeatMs);
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    device.channels[i].reportDue = true;
    cancel(device, slotOf(*device.image, Slot::reportGap, i));
  }
}

void sensorDue(Device& device, uint8_t sensor) { device.sensors[sensor].due = device.sensors[sensor].fresh; }

#endif

}  // namespace vestibule
