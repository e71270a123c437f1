// The board's store, a byte at a time from an interrupt: a byte takes 3.4 ms (data sheet, from memory), a record must
// not hold up the loop. Bytes go out in the order in which they came, which is what makes a record safe against a cut.
#include "board.h"

#include <avr/interrupt.h>
#include <avr/io.h>
#include <util/atomic.h>

#include "sizes.h"

namespace board {

namespace {

volatile size_t at, next, length;
/// what is to be written: a record's last byte, then the record
constexpr size_t WRITES = RECORD_BYTES + 1;
uint8_t bytes[WRITES];

// The next byte goes out; the interrupt comes back when it has been written.
void writeNext() {
  EEAR = static_cast<uint16_t>(next == 0 ? at + RECORD_BYTES - 1 : at + next - 1);
  EEDR = bytes[next];
  next = next + 1;
  // EEPE must follow EEMPE within four cycles; interrupts are off here
  EECR = static_cast<uint8_t>((1u << EERIE) | (1u << EEMPE));
  EECR = static_cast<uint8_t>((1u << EERIE) | (1u << EEMPE) | (1u << EEPE));
}

}  // namespace

bool storeIsBusy() { return (EECR & ((1u << EEPE) | (1u << EERIE))) != 0; }

uint8_t storeRead(void*, size_t address) {
  while ((EECR & (1u << EEPE)) != 0) {
  }
  EEAR = static_cast<uint16_t>(address);
  EECR = static_cast<uint8_t>(EECR | (1u << EERE));
  return EEDR;
}

void storeWrite(void*, size_t address, uint8_t value) {
  // The runtime writes a record's last byte, then all of it from the first to the last; main asks storeIsBusy before.
  if (length == 1) at = address;
  bytes[length] = value;
  length = length + 1;
}

void storeGoes(const volatile bool& changed) {
  ATOMIC_BLOCK(ATOMIC_RESTORESTATE) {
    if (changed) {
      length = 0;
    } else {
      writeNext();
    }
  }
}

}  // namespace board

ISR(EE_READY_vect) {
  if (board::next == board::length) {
    EECR = static_cast<uint8_t>(EECR & ~(1u << EERIE));
    board::next = 0;
    board::length = 0;
    return;
  }
  board::writeNext();
}
