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

static void put(Device& device, char character, uint8_t& sum) {
  sum = static_cast<uint8_t>(sum ^ static_cast<uint8_t>(character));
  device.port->serialOut(device.port->context, character);
}

static void putWords(Device& device, Words words, uint8_t& sum) {
  for (char c = charAt(words); c != '\0'; c = charAt(++words)) put(device, c, sum);
}

static void putNumber(Device& device, uint32_t number, uint8_t& sum) {
  // a level is nearly always one digit
  if (number < 10) return put(device, static_cast<char>('0' + number), sum);
  char digits[11];
  Text text = {digits, sizeof digits};
  appendNumber(text, number);
  for (const char* c = digits; *c != '\0'; c++) put(device, *c, sum);
}

static char hexDigit(uint8_t value) { return static_cast<char>(value < 10 ? '0' + value : 'A' + value - 10); }

// On a change and every statusMs: `S <channel>=<value> … *<xor of all before the star, two hex digits>`.
void sendStatusLine(Device& device) {
  const Image& image = *device.image;
  if (!image.serial || !device.statusDue) return;
  device.statusDue = false;
  arm(device, slotOf(image, Slot::status), image.statusMs);
  uint8_t sum = 0;
  putWords(device, WORDS("S "), sum);
  for (uint8_t i = 0; i < image.channelCount; i++) {
    putWords(device, row(&image.channels[i].id), sum);
    put(device, '=', sum);
    bool closed = false;
    if (!hasContact(device, i)) {
      putNumber(device, device.channels[i].level, sum);
    } else if (!doorIsClosed(device, i, closed)) {
      put(device, '?', sum);
    } else {
      put(device, closed ? '0' : '1', sum);
    }
    put(device, ' ', sum);
  }
  if (device.unknownCharacters > 0) {
    putWords(device, WORDS("?="), sum);
    putNumber(device, device.unknownCharacters, sum);
    put(device, ' ', sum);
  }
  uint8_t rest = 0;
  put(device, '*', rest);
  put(device, hexDigit(static_cast<uint8_t>(sum >> 4)), rest);
  put(device, hexDigit(sum & 15), rest);
  put(device, '\n', rest);
}

}  // namespace vestibule
