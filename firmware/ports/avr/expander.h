// The pins of your expander or shift register, counted from 0 in the order of the controller's parts: fill in
// expander.cpp, and say here that you have. As it stands a controller with channels or inputs on one does not compile,
// since nothing would drive them.
#ifndef VESTIBULE_AVR_EXPANDER_H
#define VESTIBULE_AVR_EXPANDER_H

#include <stdint.h>

namespace board {

constexpr bool EXPANDER_DRIVEN = false;

/// Writes the level first, then makes the pin an output: it never drives anything else. All four must return within
/// some microseconds, since a pass takes them up: keep what is written in memory, and send it from an interrupt.
void expanderMakeOutput(uint8_t pin, bool level);
void expanderMakeInput(uint8_t pin, bool pullUp);
void expanderDrive(uint8_t pin, bool level);
bool expanderRead(uint8_t pin);

}  // namespace board

#endif
