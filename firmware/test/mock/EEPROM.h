// A stand-in for the byte store of a board core, in memory.
#ifndef VESTIBULE_TEST_EEPROM_H
#define VESTIBULE_TEST_EEPROM_H

#include <stddef.h>
#include <stdint.h>

struct MockStore {
  uint8_t bytes[4096];
  size_t size = 0;
  int commits = 0;
  void begin(size_t wanted) { size = wanted; }
  uint8_t read(int at) const { return bytes[at]; }
  void write(int at, uint8_t value) { bytes[at] = value; }
  bool commit() {
    commits++;
    return true;
  }
};
extern MockStore EEPROM;

#endif
