// What a port says of itself behind the tables that it runs: its signal, and how long it has been on
// (docs/behaviour.md, Version 4).
#ifndef VESTIBULE_PORT_WORDS_H
#define VESTIBULE_PORT_WORDS_H

#include <stdint.h>

namespace vestibule {
namespace wires {

/// No port says this signal, dBm.
constexpr int16_t NO_SIGNAL = 0;
/// "port signal -100 up 4294967" and its end.
constexpr uint8_t PORT_WORDS = 32;

/// A log line that names the tables: the link has just come up.
inline bool namesTables(const char* payload) {
  for (const char* word = "tables "; *word != '\0'; word++, payload++) {
    if (*payload != *word) return false;
  }
  return true;
}

inline char* putWord(char* at, const char* word) {
  while (*word != '\0') *at++ = *word++;
  return at;
}

inline char* putNumber(char* at, uint32_t number) {
  char digits[10];
  uint8_t count = 0;
  do {
    digits[count++] = static_cast<char>('0' + number % 10);
    number /= 10;
  } while (number > 0);
  while (count > 0) *at++ = digits[--count];
  return at;
}

/// Writes the words; `signal`: dBm, below 0, or NO_SIGNAL.
inline void portWords(char* at, int16_t signal, uint32_t upMs) {
  at = putWord(at, "port");
  if (signal < 0 && signal > -128) {
    at = putWord(at, " signal -");
    at = putNumber(at, static_cast<uint32_t>(-signal));
  }
  at = putWord(at, " up ");
  at = putNumber(at, upMs / 1000);
  *at = '\0';
}

}  // namespace wires
}  // namespace vestibule

#endif
