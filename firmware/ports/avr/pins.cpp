// Pins by their numbers on the board. D0–D7 are port D, D8–D13 port B, A0–A5 port C (the chip maker's pin table, from
// memory).
#include "board.h"

#include <avr/io.h>
#include <avr/pgmspace.h>

#include "expander.h"
#include "vestibule.h"

namespace board {

namespace {

// shifting by a number that is not known takes this core a loop
const uint8_t MASKS[PINS] PROGMEM = {1, 2, 4, 8, 16, 32, 64, 128, 1, 2, 4, 8, 16, 32, 1, 2, 4, 8, 16, 32};

uint8_t maskOf(uint8_t pin) { return pgm_read_byte(MASKS + pin); }

struct Registers {
  volatile uint8_t* direction;
  volatile uint8_t* in;
  uint8_t mask;
};

Registers registersOf(uint8_t pin) {
  if (pin < 8) return Registers{&DDRD, &PIND, maskOf(pin)};
  if (pin < 14) return Registers{&DDRB, &PINB, maskOf(pin)};
  return Registers{&DDRC, &PINC, maskOf(pin)};
}

bool onExpander(uint8_t pin) {
  return EXPANDER_DRIVEN && pin >= vestibule::FIRST_EXPANDER_PIN && pin != vestibule::NO_PIN;
}
uint8_t expanderPin(uint8_t pin) { return static_cast<uint8_t>(pin - vestibule::FIRST_EXPANDER_PIN); }

/// Watched inputs of port B, C and D, and what was read there last.
uint8_t watched[3];
uint8_t levels[3];

bool moved(uint8_t number, uint8_t now) {
  const uint8_t level = now & watched[number];
  if (level == levels[number]) return false;
  levels[number] = level;
  return true;
}

}  // namespace

void watch(uint8_t pin) {
  if (pin >= PINS) return;
  const uint8_t number = pin < 8 ? 2 : pin < 14 ? 0 : 1;
  watched[number] = static_cast<uint8_t>(watched[number] | registersOf(pin).mask);
}

bool pinsMoved() {
  const bool b = moved(0, PINB);
  const bool c = moved(1, PINC);
  const bool d = moved(2, PIND);
  // an expander tells nobody that its inputs move
  return b || c || d || EXPANDER_DRIVEN;
}

void makeOutput(uint8_t pin, bool level) {
  if (onExpander(pin)) return expanderMakeOutput(expanderPin(pin), level);
  if (pin >= PINS) return;
  drive(pin, level);
  const Registers at = registersOf(pin);
  *at.direction = static_cast<uint8_t>(*at.direction | at.mask);
}

void makeInput(uint8_t pin, bool pullUp) {
  if (onExpander(pin)) return expanderMakeInput(expanderPin(pin), pullUp);
  if (pin >= PINS) return;
  const Registers at = registersOf(pin);
  *at.direction = static_cast<uint8_t>(*at.direction & ~at.mask);
  drive(pin, pullUp);
}

void drive(uint8_t pin, bool level) {
  if (onExpander(pin)) return expanderDrive(expanderPin(pin), level);
  if (pin >= PINS) return;
  volatile uint8_t& port = pin < 8 ? PORTD : pin < 14 ? PORTB : PORTC;
  const uint8_t mask = maskOf(pin);
  port = static_cast<uint8_t>(level ? port | mask : port & ~mask);
}

bool read(uint8_t pin) {
  if (onExpander(pin)) return expanderRead(expanderPin(pin));
  if (pin >= PINS) return false;
  const Registers at = registersOf(pin);
  return (*at.in & at.mask) != 0;
}

}  // namespace board
