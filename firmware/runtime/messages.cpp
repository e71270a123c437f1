#include "inside.h"

namespace vestibule {

static const char* const NOT_UNDERSTOOD = ": not understood";
static const char* const RETAINED = ": retained, ignored";

// -?[0-9]{1,5}, and nothing else
static bool wholeNumber(const char* text, size_t length, int32_t& value) {
  const bool negative = length > 0 && text[0] == '-';
  const size_t first = negative ? 1 : 0;
  if (length == first || length - first > 5) return false;
  value = 0;
  for (size_t i = first; i < length; i++) {
    if (text[i] < '0' || text[i] > '9') return false;
    value = value * 10 + (text[i] - '0');
  }
  if (negative) value = -value;
  return true;
}

// 0, or up to three digits that do not begin with 0
static bool findPoint(const Device& device, const char* text, size_t length, uint8_t& index) {
  int32_t number = 0;
  if (length == 0 || length > 3 || text[0] == '-' || (text[0] == '0' && length > 1) || !wholeNumber(text, length, number)) return false;
  for (index = 0; index < device.image->pointCount; index++) {
    if (device.image->points[index].vp == number) return true;
  }
  return false;
}

// The level that a value stands for: ⌈(value − min) · top / (max − min)⌉, so that only the least is off.
static bool levelOf(const Device& device, const Point& point, const char* payload, size_t length, uint8_t& level) {
  int32_t number = 0;
  if (!wholeNumber(payload, length, number) || number < point.min || number > point.max) return false;
  const int32_t span = point.max - point.min;
  level = static_cast<uint8_t>(((number - point.min) * device.image->channels[point.channel].top + span - 1) / span);
  return true;
}

static void channelSet(Device& device, const char* level, size_t levelLength, const char* payload, size_t length, bool retain) {
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    const Channel& channel = device.image->channels[i];
    if (!channel.takesSet || !equals(level, levelLength, channel.topic)) continue;
    // MQTT 3.1.1, 3.3.1.3: a retained message reaches every later subscriber, so a retained command would act again at each reconnection.
    if (retain) return log(device, "set ", channel.topic, RETAINED);
    if (equals(payload, length, "on")) return command(device, i, Do::on, 0, Source::hub);
    if (equals(payload, length, "off")) return command(device, i, Do::off, 0, Source::hub);
    if (equals(payload, length, "toggle")) return command(device, i, Do::toggle, 0, Source::hub);
    if (channel.stepped && equals(payload, length, "up")) return command(device, i, Do::up, 0, Source::hub);
    if (channel.stepped && equals(payload, length, "down")) return command(device, i, Do::down, 0, Source::hub);
    if (channel.stepped && length == 1 && payload[0] >= '0' && payload[0] <= '9' && payload[0] - '0' <= channel.top) {
      return command(device, i, Do::level, static_cast<uint8_t>(payload[0] - '0'), Source::hub);
    }
    return log(device, "set ", channel.topic, NOT_UNDERSTOOD);
  }
  log(device, "set: unknown channel", "", "");
}

static void pointSet(Device& device, const char* number, size_t numberLength, const char* payload, size_t length, bool retain) {
  uint8_t index;
  if (!findPoint(device, number, numberLength, index)) return log(device, "vp: unknown point", "", "");
  const Point& point = device.image->points[index];
  if (retain) return logPoint(device, point.vp, RETAINED);
  uint8_t value;
  if (!levelOf(device, point, payload, length, value)) return logPoint(device, point.vp, NOT_UNDERSTOOD);
  command(device, point.channel, Do::level, value, Source::app);
}

// The value that the service holds. It counts at power-up while a channel waits for it, and after an outage that the service wins.
static void pointHeld(Device& device, const char* number, size_t numberLength, const char* payload, size_t length) {
  uint8_t index;
  if (!findPoint(device, number, numberLength, index)) return log(device, "vp: unknown point", "", "");
  const Point& point = device.image->points[index];
  uint8_t value;
  if (!levelOf(device, point, payload, length, value)) return logPoint(device, point.vp, NOT_UNDERSTOOD);
  const bool wins = isArmed(device, slotOf(*device.image, Slot::window));
  device.heldBack[index] = false;
  if (isArmed(device, slotOf(*device.image, Slot::serviceWait, point.channel))) {
    servedAtPowerUp(device, point.channel, value);
  } else if (wins) {
    command(device, point.channel, Do::level, value, Source::service);
  }
}

void messageArrives(Device& device, const char* topic, const char* payload, size_t length, bool retain) {
  const char* at = topic;
  for (const char* prefix = device.image->prefix; *prefix != '\0'; prefix++, at++) {
    if (*at != *prefix) return;
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
  if (levels == 2 && equals(level[1], size[1], "set")) {
    channelSet(device, level[0], size[0], payload, length, retain);
  } else if (levels == 3 && equals(level[0], size[0], "vp") && equals(level[2], size[2], "set")) {
    pointSet(device, level[1], size[1], payload, length, retain);
  } else if (levels == 3 && equals(level[0], size[0], "vp") && equals(level[2], size[2], "held")) {
    pointHeld(device, level[1], size[1], payload, length);
  }
}

}  // namespace vestibule
