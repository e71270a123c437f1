#include "inside.h"

namespace vestibule {

// Unknown characters are counted, not acted on.
void characterArrives(Device& device, char character) {
  if (!device.image->serial) return;
  bool known = false;
  for (uint8_t i = 0; i < device.image->characterCount; i++) {
    const Character* at = device.image->characters + i;
    if (row(&at->character) != character) continue;
    const Character& table = row(at);
    known = true;
    doDeed(device, table.deed, table.deed.action, table.deed.level, table.nearby ? Source::nearby : Source::serial);
  }
  if (!known && device.unknownCharacters < 65535) device.unknownCharacters++;
}

// What the line will say is fixed at this instant: on a change and every statusMs.
void sendStatusLine(Device& device) {
  const Image& image = *device.image;
  // a line that is still being taken is not changed under whoever takes it: this one is made when it is through
  if (!image.serial || !device.statusDue || device.line.part != LinePart::none) return;
  device.statusDue = false;
  arm(device, slotOf(image, Slot::status), image.statusMs);
  for (uint8_t i = 0; i < image.channelCount; i++) {
    bool closed = false;
    device.said[i] = !hasContact(device, i)             ? device.channels[i].level
                     : !doorIsClosed(device, i, closed) ? NOT_KNOWN
                     : closed                           ? 0
                                                        : 1;
  }
  device.line.unknown = device.unknownCharacters;
  device.line.channel = 0;
  device.line.offset = 0;
  device.line.sum = 0;
  device.line.part = LinePart::head;
  device.port->line(device.port->context);
}

// The decimal digit at `offset`, counted from the left; false: the number has no more.
static bool digitAt(uint16_t number, uint8_t offset, char& character) {
  uint16_t place = 1;
  while (number / place >= 10) place = static_cast<uint16_t>(place * 10);
  for (; offset > 0 && place > 0; offset--) place /= 10;
  if (place == 0) return false;
  character = static_cast<char>('0' + number / place % 10);
  return true;
}

static char hexDigit(uint8_t value) { return static_cast<char>(value < 10 ? '0' + value : 'A' + value - 10); }

// The channel that comes next, or what stands behind them all.
static LinePart partOf(const Device& device, uint8_t channel) {
  return channel < device.image->channelCount ? LinePart::id
         : device.line.unknown > 0            ? LinePart::unknown
                                              : LinePart::sum;
}

// `S <channel>=<value> … *<xor of all before the star, two hex digits>`
bool lineCharacter(Device& device, char& character) {
  StatusLine& line = device.line;
  const uint8_t offset = line.offset++;
  const auto turnTo = [&line](LinePart part) {
    line.part = part;
    line.offset = 0;
  };
  switch (line.part) {
    case LinePart::none: return false;
    case LinePart::head:
      character = offset == 0 ? 'S' : ' ';
      if (offset == 1) turnTo(partOf(device, 0));
      break;
    case LinePart::id:
      character = charAt(row(&device.image->channels[line.channel].id) + offset);
      if (character != '\0') break;
      character = '=';
      turnTo(LinePart::value);
      break;
    case LinePart::value: {
      const uint8_t value = device.said[line.channel];
      if (offset == 0 && value == NOT_KNOWN) {
        character = '?';
      } else if (value == NOT_KNOWN || !digitAt(value, offset, character)) {
        character = ' ';
        turnTo(partOf(device, ++line.channel));
      }
      break;
    }
    case LinePart::unknown:
      if (offset < 2) {
        character = offset == 0 ? '?' : '=';
      } else if (!digitAt(line.unknown, static_cast<uint8_t>(offset - 2), character)) {
        character = ' ';
        turnTo(LinePart::sum);
      }
      break;
    case LinePart::sum:
      character = offset == 0   ? '*'
                  : offset == 1 ? hexDigit(static_cast<uint8_t>(line.sum >> 4))
                  : offset == 2 ? hexDigit(line.sum & 15)
                                : '\n';
      if (offset == 3) line.part = LinePart::none;
      return true;
  }
  line.sum = static_cast<uint8_t>(line.sum ^ static_cast<uint8_t>(character));
  return true;
}

}  // namespace vestibule
