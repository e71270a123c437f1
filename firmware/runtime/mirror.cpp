#include "inside.h"

namespace vestibule {

#ifdef VESTIBULE_NO_LINK

void lineArrives(Device&, const char*, size_t) {}
void forgetMain(Device&) {}
void mainLost(Device&) {}

#else

// So many status periods without a line: the main board is not heard any more. Two lines may be lost.
static const uint32_t SILENT_PERIODS = 3;
static const uint32_t LARGEST_COUNT_DIGITS = 5;

// At power-up nothing is known of the main board until its first line.
void forgetMain(Device& device) {
  device.heard = false;
  device.lineRefused = false;
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    device.channels[i].lastLevel = row(&device.image->channels[i].onLevel);
    device.channels[i].isAuto = false;
  }
}

// A line that the coprocessor does not take: damaged on its way, or made by a board with other tables.
static void refuseLine(Device& device, Words why) {
  if (!device.lineRefused) log(device, WORDS("serial: "), why, WORDS(""));
  device.lineRefused = true;
}

static int hexValue(char digit) {
  return digit >= '0' && digit <= '9' ? digit - '0' : digit >= 'A' && digit <= 'F' ? digit - 'A' + 10 : -1;
}

// How much stands before the star, when the sum behind it is right; 0: it is not.
static size_t soundLength(const char* text, size_t length) {
  if (length < 5 || text[0] != 'S' || text[1] != ' ' || text[length - 3] != '*') return 0;
  const int high = hexValue(text[length - 2]);
  const int low = hexValue(text[length - 1]);
  if (high < 0 || low < 0) return 0;
  uint8_t sum = 0;
  for (size_t i = 0; i + 3 < length; i++) sum = static_cast<uint8_t>(sum ^ static_cast<uint8_t>(text[i]));
  return sum == static_cast<uint8_t>(high * 16 + low) ? length - 3 : 0;
}

// One to `most` digits; moves `at` behind them.
static bool digits(const char* text, size_t length, size_t most, size_t& at, uint32_t& value) {
  const size_t first = at;
  value = 0;
  while (at < length && at - first < most && text[at] >= '0' && text[at] <= '9')
    value = value * 10 + static_cast<uint32_t>(text[at++] - '0');
  return at > first;
}

static bool letter(const char* text, size_t length, size_t& at, char wanted) {
  if (at >= length || text[at] != wanted) return false;
  at++;
  return true;
}

// The value of each channel into `said`; false: the line speaks of other channels, or of levels that they do not have.
static bool readValues(Device& device, const char* text, size_t length) {
  const Image& image = *device.image;
  size_t at = 2;
  uint32_t value = 0;
  for (uint8_t i = 0; i < image.channelCount; i++) {
    Words id = row(&image.channels[i].id);
    for (char c = charAt(id); c != '\0'; c = charAt(++id)) {
      if (!letter(text, length, at, c)) return false;
    }
    if (!letter(text, length, at, '=')) return false;
    const bool door = hasContact(device, i);
    if (door && letter(text, length, at, '?')) {
      device.said[i] = NOT_KNOWN;
    } else {
      if (!digits(text, length, 3, at, value) || value > (door ? 1u : row(&image.channels[i].top))) return false;
      device.said[i] = static_cast<uint8_t>(value);
    }
    if (!letter(text, length, at, ' ')) return false;
  }
  if (at == length) return true;
  return letter(text, length, at, '?') && letter(text, length, at, '=') &&
         digits(text, length, LARGEST_COUNT_DIGITS, at, value) && letter(text, length, at, ' ') && at == length;
}

// A channel of the main board, as its line says; true: it is another than before.
static bool takeValue(Device& device, uint8_t index, uint8_t value) {
  const Channel* table = device.image->channels + index;
  ChannelState& channel = device.channels[index];
  if (hasContact(device, index)) {
    const uint8_t settled = value == NOT_KNOWN ? UNKNOWN : (value == 0) == row(&table->contactMeansClosed) ? 1 : 0;
    InputState& contact = device.inputs[row(&table->contact)];
    if (contact.settled == settled) return false;
    contact.settled = settled;
    return true;
  }
  if (channel.level == value) return false;
  channel.level = value;
  if (value > 0) channel.lastLevel = value;
  return true;
}

// On every link that is up; one that has just come up is told with everything else. False: there was none.
static bool sayStatus(Device& device, bool online) {
  VESTIBULE_TOPIC(topic);
  Text text = {topic, LONGEST_TOPIC};
  append(text, device.image->prefix);
  append(text, WORDS("status"));
  bool said = false;
  for (uint8_t i = 0; i < device.image->linkCount; i++) {
    if (!isUp(device, i) || (online && device.links[i].announce)) continue;
    device.port->publish(device.port->context, i, topic, online ? "online" : "offline", true);
    said = true;
  }
  return said;
}

// One that is not whole, or not of these tables, counts for nothing.
void lineArrives(Device& device, const char* text, size_t length) {
  const size_t sound = soundLength(text, length);
  if (sound == 0) return refuseLine(device, WORDS("a status line was damaged"));
  if (!readValues(device, text, sound)) return refuseLine(device, WORDS("a status line of other tables"));
  device.lineRefused = false;
  arm(device, slotOf(*device.image, Slot::watch), SILENT_PERIODS * device.image->statusMs);
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    if (takeValue(device, i, device.said[i])) speakOf(device.channels[i], Source::serial);
  }
  if (device.heard) return;
  device.heard = true;
  if (sayStatus(device, true)) heartbeat(device);
}

// No line for too long. What is known of the main board is old, and nobody should trust it.
void mainLost(Device& device) {
  device.heard = false;
  sayStatus(device, false);
  log(device, WORDS("serial: main board not heard"), WORDS(""), WORDS(""));
}

#endif

}  // namespace vestibule
