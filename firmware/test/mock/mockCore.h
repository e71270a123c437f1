// A stand-in for the header of a board core of the setup()/loop() style: enough to compile the port against, and to run
// it.
#ifndef VESTIBULE_TEST_MOCK_CORE_H
#define VESTIBULE_TEST_MOCK_CORE_H

#include <stddef.h>
#include <stdint.h>

constexpr int LOW = 0, HIGH = 1, INPUT = 0, OUTPUT = 1, INPUT_PULLUP = 2, CHANGE = 1;

void pinMode(uint8_t pin, uint8_t mode);
void digitalWrite(uint8_t pin, uint8_t level);
int digitalRead(uint8_t pin);
unsigned long millis();
unsigned long micros();
inline int digitalPinToInterrupt(uint8_t pin) { return pin; }
void attachInterrupt(int number, void (*edge)(), int mode);

struct MockSerial {
  void begin(unsigned long);
  int available();
  int read();
  size_t write(uint8_t);
};
extern MockSerial Serial;

#endif
