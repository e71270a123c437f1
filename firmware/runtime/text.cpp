#include "inside.h"

namespace vestibule {

void append(Text& text, char character) {
  if (text.left > 1) {
    *text.at++ = character;
    text.left--;
  }
  *text.at = '\0';
}

void append(Text& text, Words words) {
  *text.at = '\0';
  for (char c = charAt(words); c != '\0' && text.left > 1; c = charAt(++words)) append(text, c);
}

void appendNumber(Text& text, uint32_t number) {
  char digits[10];
  uint8_t count = 0;
  do {
    digits[count++] = static_cast<char>('0' + number % 10);
    number /= 10;
  } while (number != 0);
  while (count > 0) append(text, digits[--count]);
}

static uint32_t magnitude(int32_t number) {
  return number < 0 ? 0u - static_cast<uint32_t>(number) : static_cast<uint32_t>(number);
}

void appendSigned(Text& text, int32_t number) {
  if (number < 0) append(text, '-');
  appendNumber(text, magnitude(number));
}

// The shortest decimal: 23400 gives 23.4
void appendThousandths(Text& text, int32_t thousandths) {
  if (thousandths < 0) append(text, '-');
  const uint32_t size = magnitude(thousandths);
  appendNumber(text, size / 1000);
  uint16_t rest = static_cast<uint16_t>(size % 1000);
  if (rest == 0) return;
  append(text, '.');
  for (uint16_t place = 100; rest != 0; place /= 10) {
    append(text, static_cast<char>('0' + rest / place));
    rest = static_cast<uint16_t>(rest % place);
  }
}

bool equals(const char* a, size_t length, Words b) {
  for (size_t i = 0; i < length; i++) {
    const char c = charAt(b + i);
    if (c == '\0' || a[i] != c) return false;
  }
  return charAt(b + length) == '\0';
}

size_t lengthOf(const char* text) {
  size_t length = 0;
  while (text[length] != '\0') length++;
  return length;
}

bool wholeNumber(const char* text, size_t length, int32_t& value) {
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

}  // namespace vestibule
