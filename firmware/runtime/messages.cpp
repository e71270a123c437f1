#include "inside.h"

namespace vestibule {

#ifdef VESTIBULE_NO_LINK

void messageArrives(Device&, uint8_t, const char*, const char*, size_t, bool) {}

#else

// A point of that number that the link carries: 0, or up to three digits that do not begin with 0.
static bool findPoint(const Device& device, uint8_t link, const char* text, size_t length, uint8_t& index) {
  int32_t number = 0;
  if (length == 0 || length > 3 || text[0] == '-' || (text[0] == '0' && length > 1) ||
      !wholeNumber(text, length, number))
    return false;
  for (index = 0; index < device.image->pointCount; index++) {
    const Point& point = row(device.image->points + index);
    if (point.link == link && point.vp == number) return true;
  }
  return false;
}

// The level that a value stands for: ⌈(value − min) · top / (max − min)⌉, so that only the least is off.
static bool levelOf(const Device& device, const Point& point, const char* payload, size_t length, uint8_t& level) {
  int32_t number = 0;
  if (!wholeNumber(payload, length, number) || number < point.min || number > point.max ||
      point.carries == Carries::sensor)
    return false;
  const int32_t span = static_cast<int32_t>(point.max) - point.min;
  const int32_t top = point.carries == Carries::channel ? row(&device.image->channels[point.index].top) : 1;
  level = static_cast<uint8_t>(((number - point.min) * top + span - 1) / span);
  return true;
}

// What a value of a channel's point tells it: of an on/off point on a stepped channel only whether it is on.
static Action actionOf(const Device& device, const Point& point, uint8_t level) {
  return level > 0 && isOnOffPoint(device, point) ? Action::on : Action::level;
}

// The word that a payload is for a kind of channel; false: that kind does not know it.
static bool wordOf(const Device& device, uint8_t index, const char* payload, size_t length, Action& action,
                   uint8_t& level) {
  const Channel& table = row(device.image->channels + index);
  const auto is = [&](Words word, Action meant) {
    if (!equals(payload, length, word)) return false;
    action = meant;
    return true;
  };
  level = 0;
  switch (table.kind) {
    case ChannelKind::pulsed:
      if (is(WORDS("pulse"), Action::pulse)) return true;
      // A door without a position contact cannot be told to open or close: nobody knows which a pulse would do.
      return hasContact(device, index) && (is(WORDS("open"), Action::open) || is(WORDS("close"), Action::close));
    case ChannelKind::paired:
      return is(WORDS("a"), Action::a) || is(WORDS("b"), Action::b) || is(WORDS("stop"), Action::stop);
    default: break;
  }
  if (is(WORDS("on"), Action::on) || is(WORDS("off"), Action::off) || is(WORDS("toggle"), Action::toggle)) return true;
  if (table.kind != ChannelKind::stepped) return false;
  if (is(WORDS("up"), Action::up) || is(WORDS("down"), Action::down)) return true;
  if (length != 1 || payload[0] < '0' || payload[0] > '9' || payload[0] - '0' > table.top) return false;
  action = Action::level;
  level = static_cast<uint8_t>(payload[0] - '0');
  return true;
}

// Auto and manual, as a hub says them.
static void modeSet(Device& device, const char* payload, size_t length, bool retain) {
  if (retain) return log(device, WORDS("set mode: retained, ignored"), WORDS(""), WORDS(""));
  if (equals(payload, length, WORDS("auto"))) return modeByHand(device, true);
  if (equals(payload, length, WORDS("manual"))) return modeByHand(device, false);
  if (equals(payload, length, WORDS("toggle"))) return modeByHand(device, !isAuto(device));
  log(device, WORDS("set mode: not understood"), WORDS(""), WORDS(""));
}

// A group's topic level is its id; a channel of that name goes before it.
static void groupSet(Device& device, const char* name, size_t nameLength, const char* payload, size_t length,
                     bool retain) {
  static const Action ACTIONS[] = {Action::on, Action::off, Action::toggle, Action::up, Action::down, Action::stop};
  const Words names[] = {WORDS("on"), WORDS("off"), WORDS("toggle"), WORDS("up"), WORDS("down"), WORDS("stop")};
  for (uint8_t i = 0; i < device.image->groupCount; i++) {
    const Group& table = row(device.image->groups + i);
    if (!table.takesSet || !equals(name, nameLength, table.id)) continue;
    if (retain) return log(device, WORDS("set "), table.id, WORDS(": retained, ignored"));
    for (uint8_t word = 0; word < sizeof ACTIONS; word++) {
      if (equals(payload, length, names[word])) return groupCommand(device, i, ACTIONS[word], 0, Source::hub);
    }
    return log(device, WORDS("set "), table.id, WORDS(": not understood"));
  }
  log(device, WORDS("set: unknown channel"), WORDS(""), WORDS(""));
}

static void channelSet(Device& device, const char* name, size_t nameLength, const char* payload, size_t length,
                       bool retain) {
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    const Channel& table = row(device.image->channels + i);
    if (!table.takesSet || !equals(name, nameLength, table.topic)) continue;
    // MQTT 3.1.1, 3.3.1.3: a retained message reaches every later subscriber, so a retained command would act again at
    // each reconnection.
    if (retain) return log(device, WORDS("set "), table.topic, WORDS(": retained, ignored"));
    Action action = Action::off;
    uint8_t level = 0;
    if (wordOf(device, i, payload, length, action, level)) return byHand(device, i, action, level, Source::hub);
    return log(device, WORDS("set "), table.topic, WORDS(": not understood"));
  }
  if (device.image->modeTopic && equals(name, nameLength, WORDS("mode")))
    return modeSet(device, payload, length, retain);
  groupSet(device, name, nameLength, payload, length, retain);
}

static void pointSet(Device& device, uint8_t link, const char* number, size_t numberLength, const char* payload,
                     size_t length, bool retain) {
  uint8_t index;
  if (!findPoint(device, link, number, numberLength, index))
    return log(device, WORDS("vp: unknown point"), WORDS(""), WORDS(""));
  const Point& point = row(device.image->points + index);
  if (retain) return logPoint(device, point.vp, WORDS(": retained, ignored"));
  uint8_t value;
  if (!levelOf(device, point, payload, length, value)) return logPoint(device, point.vp, WORDS(": not understood"));
  if (anyCarries(*device.image, Carries::mode) && point.carries == Carries::mode) return modeByHand(device, value > 0);
  if (anyCarries(*device.image, Carries::group) && point.carries == Carries::group)
    return groupCommand(device, point.index, value > 0 ? Action::on : Action::off, 0, Source::app);
  byHand(device, point.index, actionOf(device, point, value), value, Source::app);
}

// The value that the service holds. It counts at power-up while a channel waits for it, and after an outage that the
// service wins: once, and not after a hand.
static void pointHeld(Device& device, uint8_t link, const char* number, size_t numberLength, const char* payload,
                      size_t length) {
  uint8_t index;
  if (!findPoint(device, link, number, numberLength, index))
    return log(device, WORDS("vp: unknown point"), WORDS(""), WORDS(""));
  const Point& point = row(device.image->points + index);
  uint8_t value;
  if (!levelOf(device, point, payload, length, value)) return logPoint(device, point.vp, WORDS(": not understood"));
  const bool wins = device.heldBack[index];
  device.heldBack[index] = false;
  if (anyCarries(*device.image, Carries::mode) && point.carries == Carries::mode) {
    if (wins) setMode(device, value > 0);
    return;
  }
  // a group has no state that a service could hold
  if (point.carries == Carries::group) return;
  const ChannelKind kind = row(&device.image->channels[point.index].kind);
  // A door or a shutter never moves because of what a service remembers.
  if (!isLasting(kind)) return;
  if (row(&device.image->channels[point.index].powerUp) == PowerUp::service &&
      isArmed(device, slotOf(*device.image, Slot::serviceWait, point.index))) {
    const bool isOn = actionOf(device, point, value) == Action::on;
    servedAtPowerUp(device, point.index, isOn ? device.channels[point.index].lastLevel : value);
  } else if (wins) {
    command(device, point.index, actionOf(device, point, value), value, Source::service);
  }
}

// A link that is not up carries nothing.
void messageArrives(Device& device, uint8_t link, const char* topic, const char* payload, size_t length, bool retain) {
  if (link >= device.image->linkCount || !isUp(device, link)) return;
  const bool own = device.image->own && row(&device.image->links[link].own);
  if (own && equals(topic, lengthOf(topic), device.image->watchTopic)) return heartbeatHeard(device, retain);
  const char* at = topic;
  Words prefix = device.image->prefix;
  for (char c = charAt(prefix); c != '\0'; c = charAt(++prefix), at++) {
    if (*at != c) return;
  }
  const char* level[3] = {at, nullptr, nullptr};
  size_t size[3] = {0, 0, 0};
  size_t levels = 1;
  for (; *at != '\0'; at++) {
    if (*at != '/') {
      size[levels - 1]++;
    } else {
      if (levels == 3) return;
      level[levels++] = at + 1;
    }
  }
  if (levels == 2 && own && equals(level[1], size[1], WORDS("set"))) {
    channelSet(device, level[0], size[0], payload, length, retain);
  } else if (levels == 3 && equals(level[0], size[0], WORDS("vp")) && equals(level[2], size[2], WORDS("set"))) {
    pointSet(device, link, level[1], size[1], payload, length, retain);
  } else if (levels == 3 && equals(level[0], size[0], WORDS("vp")) && equals(level[2], size[2], WORDS("held"))) {
    pointHeld(device, link, level[1], size[1], payload, length);
  }
}

#endif

}  // namespace vestibule
