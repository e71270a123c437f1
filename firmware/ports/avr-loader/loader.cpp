// A boot loader for the 8-bit board: takes a program as hex records over the serial port, one at a time, and answers
// each. It stands in the boot section, writes everything before it, and starts the program when nobody speaks.
//
//   it says      >         it is there, after a reset
//   it hears     :…\n      a record: length, address, kind, bytes, and their sum (the usual hex format, kinds 0 and 1)
//   it answers   +         taken · -  the sum is wrong, say it again · !  it lies beyond the program's room
//   after the last record  + and the CRC-16 of all that was written, four hex digits; then the program starts
//
// The first record of a session erases the first page, and whoever sends a program sends that page last: a program that
// was cut off in the middle has no beginning, so that it is never started, and the loader waits for the next try.
#include <avr/boot.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include <avr/wdt.h>
#include <util/crc16.h>

namespace {

constexpr uint16_t ROOM = 0x7c00;  // the boot section begins here: 512 words of 16 bits
constexpr uint32_t BAUD = 115200;
/// Turns of an empty wait in about a second, at 16 MHz and some 20 cycles each.
constexpr uint32_t A_SECOND = F_CPU / 20;

uint8_t page[SPM_PAGESIZE];
uint16_t pageAt;
uint16_t end;

void say(char character) {
  while ((UCSR0A & (1u << UDRE0)) == 0) {
  }
  UDR0 = static_cast<uint8_t>(character);
}

uint8_t hear() {
  while ((UCSR0A & (1u << RXC0)) == 0) {
  }
  return UDR0;
}

uint8_t digit(uint8_t c) { return static_cast<uint8_t>(c <= '9' ? c - '0' : (c | 0x20) - 'a' + 10); }

uint8_t sum;
uint8_t byteOf() {
  const uint8_t high = digit(hear());
  const uint8_t value = static_cast<uint8_t>((high << 4) | digit(hear()));
  sum = static_cast<uint8_t>(sum + value);
  return value;
}

void erase(uint16_t at) {
  boot_page_erase(at);
  boot_spm_busy_wait();
  boot_rww_enable();
}

// Writes the page that stands in memory.
void flush() {
  if (pageAt == 0xffff) return;
  boot_page_erase(pageAt);
  boot_spm_busy_wait();
  for (uint8_t i = 0; i < SPM_PAGESIZE; i += 2)
    boot_page_fill(pageAt + i, static_cast<uint16_t>(page[i] | (page[i + 1] << 8)));
  boot_page_write(pageAt);
  boot_spm_busy_wait();
  boot_rww_enable();
  pageAt = 0xffff;
}

void put(uint16_t address, uint8_t value) {
  const uint16_t at = static_cast<uint16_t>(address & ~(SPM_PAGESIZE - 1));
  if (at != pageAt) {
    flush();
    // what no record says stays as it is in the page
    for (uint8_t i = 0; i < SPM_PAGESIZE; i++) page[i] = at == 0 ? 0xff : pgm_read_byte(at + i);
    pageAt = at;
  }
  page[address & (SPM_PAGESIZE - 1)] = value;
  if (address >= end) end = static_cast<uint16_t>(address + 1);
}

void sayHex(uint8_t value) {
  for (uint8_t half = 0; half < 2; half++, value = static_cast<uint8_t>(value << 4)) {
    const uint8_t nibble = value >> 4;
    say(static_cast<char>(nibble < 10 ? '0' + nibble : 'a' + nibble - 10));
  }
}

void startProgram() {
  if (pgm_read_word(0) == 0xffff) return;
  // the last character must be out before the program takes the port
  while ((UCSR0A & (1u << UDRE0)) == 0) {
  }
  for (uint16_t wait = 0; wait < 4000; wait++) __asm__ __volatile__("nop");
  UCSR0B = 0;
  __asm__ __volatile__("jmp 0");
}

uint8_t bytes[32];

// One record, after its colon. True: it was the last.
bool record(bool& first) {
  sum = 0;
  const uint8_t count = byteOf();
  const uint8_t high = byteOf();
  const uint16_t address = static_cast<uint16_t>((high << 8) | byteOf());
  const uint8_t kind = byteOf();
  if (count > sizeof bytes) {
    say('-');
    return false;
  }
  for (uint8_t i = 0; i < count; i++) bytes[i] = byteOf();
  byteOf();
  if (sum != 0) {
    say('-');
    return false;
  }
  if (kind == 0 && (address >= ROOM || ROOM - address < count)) {
    say('!');
    return false;
  }
  if (first) {
    erase(0);
    first = false;
  }
  if (kind == 0) {
    for (uint8_t i = 0; i < count; i++) put(static_cast<uint16_t>(address + i), bytes[i]);
  } else if (kind == 1) {
    flush();
  }
  say('+');
  return kind == 1;
}

}  // namespace

int main();

// In the place of the usual start: there are no interrupts here, and nothing that has to be copied first.
extern "C" __attribute__((naked, used, section(".vectors"))) void starts() {
  __asm__ __volatile__("clr r1");
  SP = RAMEND;
  __asm__ __volatile__("jmp main");
}

__attribute__((OS_main)) int main() {
  MCUSR = 0;
  wdt_disable();
  UBRR0 = static_cast<uint16_t>((F_CPU / 4 / BAUD - 1) / 2);
  UCSR0A = static_cast<uint8_t>(1u << U2X0);
  UCSR0C = static_cast<uint8_t>((1u << UCSZ01) | (1u << UCSZ00));
  UCSR0B = static_cast<uint8_t>((1u << RXEN0) | (1u << TXEN0));
  for (;;) {
    bool first = true;
    end = 0;
    pageAt = 0xffff;
    say('>');
    for (uint32_t wait = 0; (UCSR0A & (1u << RXC0)) == 0;) {
      if (++wait < A_SECOND) continue;
      startProgram();
      wait = 0;
      say('>');
    }
    for (bool last = false; !last;) {
      if (hear() != ':') continue;
      last = record(first);
    }
    uint16_t crc = 0;
    for (uint16_t at = 0; at < end; at++) crc = _crc_xmodem_update(crc, pgm_read_byte(at));
    sayHex(static_cast<uint8_t>(crc >> 8));
    sayHex(static_cast<uint8_t>(crc));
    say('\n');
    startProgram();
  }
}
