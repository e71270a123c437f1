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

#ifdef VESTIBULE_ONE_CONTROLLER
char sharedTopic[LONGEST_TOPIC];
char sharedPayload[LONGEST_PAYLOAD];
#endif

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
  VESTIBULE_TOPIC(topic);
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
  VESTIBULE_PAYLOAD(payload);
  Text text = {payload, LONGEST_PAYLOAD};
  append(text, first);
  append(text, topic);
  append(text, last);
  publishLog(device, payload);
}

void logPoint(Device& device, uint8_t vp, Words last) {
  VESTIBULE_PAYLOAD(payload);
  Text text = {payload, LONGEST_PAYLOAD};
  append(text, WORDS("vp"));
  appendNumber(text, vp);
  append(text, last);
  publishLog(device, payload);
}

void logCode(Device& device, Words selector, uint8_t code) {
  VESTIBULE_PAYLOAD(payload);
  Text text = {payload, LONGEST_PAYLOAD};
  append(text, WORDS("selector "));
  append(text, selector);
  append(text, WORDS(": no level for code "));
  appendNumber(text, code);
  publishLog(device, payload);
}

#ifndef VESTIBULE_FEW_WORDS
void logBounce(Device& device, Words input, uint8_t ms) {
  VESTIBULE_PAYLOAD(payload);
  Text text = {payload, LONGEST_PAYLOAD};
  append(text, WORDS("input "));
  append(text, input);
  append(text, WORDS(": bounced "));
  appendNumber(text, ms);
  append(text, WORDS(" ms"));
  publishLog(device, payload);
}

// Protocols by their names in traces.
static Words nameOf(Protocol protocol) {
#define VESTIBULE_NAME(id, name) \
  if (protocol == Protocol::id) return WORDS(name);
  VESTIBULE_PROTOCOLS(VESTIBULE_NAME)
#undef VESTIBULE_NAME
  return WORDS("");
}

void logKey(Device& device, const Frame& frame) {
  VESTIBULE_PAYLOAD(payload);
  Text text = {payload, LONGEST_PAYLOAD};
  append(text, WORDS("key "));
  append(text, nameOf(frame.protocol));
  append(text, WORDS(" "));
  appendNumber(text, frame.address);
  append(text, WORDS(" "));
  appendNumber(text, frame.command);
  publishLog(device, payload);
}
#endif

// The link on which the controller speaks of itself, if that is up.
static bool ownLink(const Device& device, uint8_t& link) {
  if (!device.image->own) return false;
  for (link = 0; link < device.image->linkCount; link++) {
    if (row(&device.image->links[link].own) && isUp(device, link)) return true;
  }
  return false;
}

// What a hand did to the switch of a detached feed.
void tellHub(Device& device, uint8_t channel, Gesture gesture, bool closed, uint8_t level) {
  uint8_t link = 0;
  if (!ownLink(device, link)) return;
  VESTIBULE_TOPIC(topic);
  VESTIBULE_PAYLOAD(payload);
  Text where = topicText(device, topic);
  append(where, row(&device.image->channels[channel].topic));
  append(where, WORDS("/gesture"));
  Text what = {payload, LONGEST_PAYLOAD};
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
  return table.kind == ChannelKind::stepped && static_cast<int32_t>(point.max) - point.min < table.top;
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
  VESTIBULE_TOPIC(topic);
  VESTIBULE_PAYLOAD(payload);
  if (image.own && table.reports) {
    Text where = topicText(device, topic);
    append(where, table.topic);
    append(where, WORDS("/state"));
    Text what = {payload, LONGEST_PAYLOAD};
    statePayload(device, index, what);
    sayOwn(device, links, topic, payload, true);
  }
  for (uint8_t i = 0; i < image.pointCount; i++) {
    const Point& point = row(image.points + i);
    if (point.carries != Carries::channel || point.index != index || !point.reports || device.heldBack[i]) continue;
    if (!has(links, point.link)) continue;
    pointTopic(device, topic, point.vp);
    Text what = {payload, LONGEST_PAYLOAD};
    const uint8_t level = shownLevel(device, index);
    const int32_t shown = isOnOffPoint(device, point)
                              ? (level > 0 ? point.max : point.min)
                              : point.min + level * (static_cast<int32_t>(point.max) - point.min) / table.top;
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
  VESTIBULE_TOPIC(topic);
  VESTIBULE_PAYLOAD(payload);
  if (!image.own && !anyCarries(image, Carries::sensor)) return;
  Text what = {payload, LONGEST_PAYLOAD};
  appendThousandths(what, device.sensors[index].value);
  if (image.own) {
    Text where = topicText(device, topic);
    append(where, WORDS("sensor/"));
    append(where, row(&image.sensors[index].id));
    sayOwn(device, links, topic, payload, false);
  }
  for (uint8_t i = 0; anyCarries(image, Carries::sensor) && i < image.pointCount; i++) {
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
  VESTIBULE_TOPIC(topic);
  VESTIBULE_PAYLOAD(payload);
  if (device.mirrors) return;
  for (uint8_t i = 0; anyCarries(image, Carries::mode) && i < image.pointCount; i++) {
    const Point& point = row(image.points + i);
    if (point.carries != Carries::mode || !point.reports || device.heldBack[i] || !has(links, point.link)) continue;
    pointTopic(device, topic, point.vp);
    Text what = {payload, LONGEST_PAYLOAD};
    appendSigned(what, isAuto(device) ? point.max : point.min);
    device.port->publish(device.port->context, point.link, topic, payload, true);
  }
  if (!image.own || !image.modeTopic) return;
  Text where = topicText(device, topic);
  append(where, WORDS("mode/state"));
  sayOwn(device, links, topic, isAuto(device) ? "auto" : "manual", true);
}

static void subscribe(Device& device, uint8_t link, Words last) {
  VESTIBULE_TOPIC(topic);
  Text text = topicText(device, topic);
  append(text, last);
  device.port->subscribe(device.port->context, link, topic);
}

static void logWord(Device& device, uint8_t link, Words first, Words second) {
  VESTIBULE_PAYLOAD(payload);
  Text text = {payload, LONGEST_PAYLOAD};
  append(text, first);
  append(text, second);
  logTo(device, link, payload);
}

static bool hasRoom(const Device& device, Links links) {
  if (device.port->hasRoom == nullptr) return true;
  for (uint8_t i = 0; i < device.image->linkCount; i++) {
    if (has(links, i) && !device.port->hasRoom(device.port->context, i)) return false;
  }
  return true;
}

/// What a link that has come up is told behind status, channels and readings.
enum class Told : uint8_t { mode, hubWishes, wishes, held, watch, tables, clock, count };

static void tellStatus(Device& device, uint8_t link, bool silent) {
  VESTIBULE_TOPIC(topic);
  Text status = topicText(device, topic);
  append(status, WORDS("status"));
  device.port->publish(device.port->context, link, topic, silent ? "offline" : "online", true);
}

static void tellLast(Device& device, uint8_t link, Told what, bool all) {
  const Image& image = *device.image;
  const Link& table = row(image.links + link);
  switch (what) {
    case Told::mode:
      if (all) device.modeDue = false;
      return sayModeTo(device, static_cast<Links>(1u << link));
    case Told::hubWishes:
      if (image.own && table.own) subscribe(device, link, WORDS("+/set"));
      return;
    case Told::wishes: return subscribe(device, link, WORDS("vp/+/set"));
    case Told::held: return subscribe(device, link, WORDS("vp/+/held"));
    case Told::watch: {
      if (!image.own || !table.own || !image.watches) return;
      VESTIBULE_TOPIC(topic);
      Text text = {topic, LONGEST_TOPIC};
      append(text, image.watchTopic);
      return device.port->subscribe(device.port->context, link, topic);
    }
    case Told::tables:
      if (table.logs) logWord(device, link, WORDS("tables "), image.hash);
      return;
    default:
      if (table.logs && image.scheduleCount > 0 && !device.clockKnown && !device.mirrors)
        logWord(device, link, WORDS("schedule: no clock"), WORDS(""));
  }
}

static void tellStep(Device& device, uint8_t link, uint8_t step, bool all) {
  const Image& image = *device.image;
  const Links only = static_cast<Links>(1u << link);
  const bool silent = device.mirrors && !device.heard;
  if (step == 0) return tellStatus(device, link, silent);
  step--;
  if (step < image.channelCount) {
    if (silent) return;
    if (all) channelSaid(device, step);
    return sayChannel(device, step, only);
  }
  step = static_cast<uint8_t>(step - image.channelCount);
  if (step >= image.sensorCount)
    return tellLast(device, link, static_cast<Told>(static_cast<uint8_t>(step - image.sensorCount)), all);
  if (!device.sensors[step].fresh) return;
  if (all) sensorSaid(device, step);
  saySensor(device, step, only);
}

// A link is up: online, everything, then its subscriptions; as far as there is room, and the rest later. `all`: every
// link that is up gets everything in this instant; where another was up before, what waits to be said to that one goes
// on waiting.
static void announce(Device& device, uint8_t link, bool all) {
  const Image& image = *device.image;
  LinkRecord& record = device.links[link];
  const uint8_t steps =
      static_cast<uint8_t>(1 + image.channelCount + image.sensorCount + static_cast<uint8_t>(Told::count));
  for (; record.told < steps; record.told++) {
    if (!hasRoom(device, static_cast<Links>(1u << link))) return;
    tellStep(device, link, record.told, all);
  }
  record.announce = false;
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
    if (!hasRoom(device, others)) return;
    channelSaid(device, i);
    sayChannel(device, i, others);
  }
  for (uint8_t i = 0; i < image.sensorCount; i++) {
    if (!device.sensors[i].due || !device.sensors[i].fresh) continue;
    if (!hasRoom(device, others)) return;
    sensorSaid(device, i);
    saySensor(device, i, others);
  }
  if (!device.modeDue || !hasRoom(device, others)) return;
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
