#include "inside.h"

namespace vestibule {

void append(Text& text, const char* words) {
  while (*words != '\0' && text.left > 1) {
    *text.at++ = *words++;
    text.left--;
  }
  *text.at = '\0';
}

void appendNumber(Text& text, uint32_t number) {
  char digits[11];
  size_t at = sizeof digits - 1;
  digits[at] = '\0';
  do {
    digits[--at] = static_cast<char>('0' + number % 10);
    number /= 10;
  } while (number != 0);
  append(text, digits + at);
}

void appendSigned(Text& text, int32_t number) {
  if (number < 0) append(text, "-");
  appendNumber(text, number < 0 ? 0u - static_cast<uint32_t>(number) : static_cast<uint32_t>(number));
}

size_t lengthOf(const char* text) {
  size_t length = 0;
  while (text[length] != '\0') length++;
  return length;
}

bool equals(const char* a, size_t length, const char* b) {
  for (size_t i = 0; i < length; i++) {
    if (b[i] == '\0' || a[i] != b[i]) return false;
  }
  return b[length] == '\0';
}

}  // namespace vestibule
