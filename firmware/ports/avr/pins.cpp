// Pins by their numbers on the board. D0–D7 are port D, D8–D13 port B, A0–A5 port C (the chip maker's pin table, from memory).
#include "board.h"

#include <avr/io.h>

namespace board {

namespace {

struct Registers {
  volatile uint8_t* port;
  volatile uint8_t* direction;
  volatile uint8_t* in;
  uint8_t mask;
};

Registers registersOf(uint8_t pin) {
  if (pin < 8) return Registers{&PORTD, &DDRD, &PIND, static_cast<uint8_t>(1u << pin)};
  if (pin < 14) return Registers{&PORTB, &DDRB, &PINB, static_cast<uint8_t>(1u << (pin - 8))};
  return Registers{&PORTC, &DDRC, &PINC, static_cast<uint8_t>(1u << (pin - 14))};
}

}  // namespace

void makeOutput(uint8_t pin, bool level) {
  if (pin >= PINS) return;
  drive(pin, level);
  const Registers at = registersOf(pin);
  *at.direction = static_cast<uint8_t>(*at.direction | at.mask);
}

void makeInput(uint8_t pin, bool pullUp) {
  if (pin >= PINS) return;
  const Registers at = registersOf(pin);
  *at.direction = static_cast<uint8_t>(*at.direction & ~at.mask);
  drive(pin, pullUp);
}

void drive(uint8_t pin, bool level) {
  if (pin >= PINS) return;
  const Registers at = registersOf(pin);
  *at.port = static_cast<uint8_t>(level ? *at.port | at.mask : *at.port & ~at.mask);
}

bool read(uint8_t pin) {
  if (pin >= PINS) return false;
  const Registers at = registersOf(pin);
  return (*at.in & at.mask) != 0;
}

}  // namespace board
