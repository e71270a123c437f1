// Bytes and ended texts, for cores that have no library for them.
#ifndef VESTIBULE_BYTES_H
#define VESTIBULE_BYTES_H

#include <stddef.h>
#include <stdint.h>

namespace vestibule {
namespace bytes {

inline size_t length(const char* text) {
  size_t size = 0;
  while (text[size] != '\0') size++;
  return size;
}

inline void copy(void* to, const void* from, size_t size) {
  uint8_t* target = static_cast<uint8_t*>(to);
  const uint8_t* source = static_cast<const uint8_t*>(from);
  for (size_t i = 0; i < size; i++) target[i] = source[i];
}

/// Towards the front, where both may overlap.
inline void moveDown(void* to, const void* from, size_t size) { copy(to, from, size); }

inline bool begins(const char* text, const char* with) {
  while (*with != '\0') {
    if (*text++ != *with++) return false;
  }
  return true;
}

inline bool same(const char* a, const char* b) {
  while (*a != '\0' && *a == *b) {
    a++;
    b++;
  }
  return *a == *b;
}

/// Where a character stands; null: nowhere.
inline char* find(char* text, char wanted) {
  for (; *text != '\0'; text++) {
    if (*text == wanted) return text;
  }
  return nullptr;
}

}  // namespace bytes
}  // namespace vestibule

#endif
