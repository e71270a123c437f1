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

static void publishLog(Device& device, const char* payload) {
  char topic[LONGEST_TOPIC];
  Text text = topicText(device, topic);
  append(text, WORDS("log"));
  device.port->publish(device.port->context, topic, payload, false);
}

void log(Device& device, Words first, Words topic, Words last) {
  if (device.link != LinkState::up) return;
  char payload[LONGEST_PAYLOAD];
  Text text = {payload, sizeof payload};
  append(text, first);
  append(text, topic);
  append(text, last);
  publishLog(device, payload);
}

void logPoint(Device& device, uint8_t vp, Words last) {
  if (device.link != LinkState::up) return;
  char payload[LONGEST_PAYLOAD];
  Text text = {payload, sizeof payload};
  append(text, WORDS("vp"));
  appendNumber(text, vp);
  append(text, last);
  publishLog(device, payload);
}

void logCode(Device& device, Words selector, uint8_t code) {
  if (device.link != LinkState::up) return;
  char payload[LONGEST_PAYLOAD];
  Text text = {payload, sizeof payload};
  append(text, WORDS("selector "));
  append(text, selector);
  append(text, WORDS(": no level for code "));
  appendNumber(text, code);
  publishLog(device, payload);
}

// What a hand did to the switch of a detached feed.
void tellHub(Device& device, uint8_t channel, Gesture gesture, bool closed, uint8_t level) {
  if (device.link != LinkState::up) return;
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
  device.port->publish(device.port->context, topic, payload, false);
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

static void reportChannel(Device& device, uint8_t index) {
  const Image& image = *device.image;
  const Channel& table = row(image.channels + index);
  char topic[LONGEST_TOPIC];
  char payload[LONGEST_PAYLOAD];
  device.channels[index].reportDue = false;
  if (image.minReportMs > 0) arm(device, slotOf(image, Slot::reportGap, index), image.minReportMs);
  if (table.reports) {
    Text where = topicText(device, topic);
    append(where, table.topic);
    append(where, WORDS("/state"));
    Text what = {payload, sizeof payload};
    statePayload(device, index, what);
    device.port->publish(device.port->context, topic, payload, true);
  }
  for (uint8_t i = 0; i < image.pointCount; i++) {
    const Point& point = row(image.points + i);
    if (point.carries != Carries::channel || point.index != index || !point.reports || device.heldBack[i]) continue;
    pointTopic(device, topic, point.vp);
    Text what = {payload, sizeof payload};
    const uint8_t level = shownLevel(device, index);
    const int32_t shown = isOnOffPoint(device, point)
                              ? (level > 0 ? point.max : point.min)
                              : point.min + static_cast<int32_t>(level) * (point.max - point.min) / table.top;
    appendSigned(what, shown);
    device.port->publish(device.port->context, topic, payload, true);
  }
}

static void reportSensor(Device& device, uint8_t index) {
  const Image& image = *device.image;
  SensorState& sensor = device.sensors[index];
  char topic[LONGEST_TOPIC];
  char payload[LONGEST_PAYLOAD];
  sensor.due = false;
  sensor.reported = sensor.value;
  sensor.everReported = true;
  arm(device, slotOf(image, Slot::sensorDue, index), image.sensorMs);
  Text what = {payload, sizeof payload};
  appendThousandths(what, sensor.value);
  Text where = topicText(device, topic);
  append(where, WORDS("sensor/"));
  append(where, row(&image.sensors[index].id));
  device.port->publish(device.port->context, topic, payload, false);
  for (uint8_t i = 0; i < image.pointCount; i++) {
    const Point& point = row(image.points + i);
    if (point.carries != Carries::sensor || point.index != index || !point.reports) continue;
    pointTopic(device, topic, point.vp);
    device.port->publish(device.port->context, topic, payload, true);
  }
}

static void reportMode(Device& device) {
  const Image& image = *device.image;
  char topic[LONGEST_TOPIC];
  char payload[LONGEST_PAYLOAD];
  device.modeDue = false;
  if (device.mirrors) return;
  for (uint8_t i = 0; i < image.pointCount; i++) {
    const Point& point = row(image.points + i);
    if (point.carries != Carries::mode || !point.reports || device.heldBack[i]) continue;
    pointTopic(device, topic, point.vp);
    Text what = {payload, sizeof payload};
    appendSigned(what, isAuto(device) ? point.max : point.min);
    device.port->publish(device.port->context, topic, payload, true);
  }
  if (!image.modeTopic) return;
  Text where = topicText(device, topic);
  append(where, WORDS("mode/state"));
  device.port->publish(device.port->context, topic, isAuto(device) ? "auto" : "manual", true);
}

static void subscribe(Device& device, Words last) {
  char topic[LONGEST_TOPIC];
  Text text = topicText(device, topic);
  append(text, last);
  device.port->subscribe(device.port->context, topic);
}

// The link is up: online, everything, then the subscriptions.
static void announce(Device& device) {
  const Image& image = *device.image;
  char topic[LONGEST_TOPIC];
  device.announce = false;
  Text status = topicText(device, topic);
  append(status, WORDS("status"));
  const bool silent = device.mirrors && !device.heard;
  device.port->publish(device.port->context, topic, silent ? "offline" : "online", true);
  for (uint8_t i = 0; i < image.channelCount && !silent; i++) reportChannel(device, i);
  for (uint8_t i = 0; i < image.sensorCount; i++) {
    if (device.sensors[i].fresh) reportSensor(device, i);
  }
  reportMode(device);
  subscribe(device, WORDS("+/set"));
  subscribe(device, WORDS("vp/+/set"));
  subscribe(device, WORDS("vp/+/held"));
  if (image.watches) {
    Text text = {topic, LONGEST_TOPIC};
    append(text, image.watchTopic);
    device.port->subscribe(device.port->context, topic);
  }
  log(device, WORDS("tables "), image.hash, WORDS(""));
  if (image.scheduleCount > 0 && !device.clockKnown && !device.mirrors)
    log(device, WORDS("schedule: no clock"), WORDS(""), WORDS(""));
}

// Reports of one instant: channels in order, then sensors, then the mode.
void sendReports(Device& device) {
  if (device.link != LinkState::up) return;
  if (device.announce) return announce(device);
  if (device.mirrors && !device.heard) return;
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    if (device.channels[i].reportDue && !isArmed(device, slotOf(*device.image, Slot::reportGap, i)))
      reportChannel(device, i);
  }
  for (uint8_t i = 0; i < device.image->sensorCount; i++) {
    if (device.sensors[i].due && device.sensors[i].fresh) reportSensor(device, i);
  }
  if (device.modeDue) reportMode(device);
}

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
