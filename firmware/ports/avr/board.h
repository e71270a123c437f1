// The 8-bit board: what the port's files offer to each other. 16 MHz, one serial port on D0 and D1, 1 KiB of store.
//
// Once a millisecond the main loop takes what has come (levels, frames, characters, readings), hands it to the runtime and
// sleeps again. Interrupts only put aside: durations, characters, bytes for the store.
#ifndef VESTIBULE_AVR_BOARD_H
#define VESTIBULE_AVR_BOARD_H

#include <stddef.h>
#include <stdint.h>

namespace board {

/// Marks for a logic analyser or a simulator, in a register that nothing else uses.
constexpr uint8_t MARK_SAFE = 1;   ///< pins are made, outputs at their safe levels
constexpr uint8_t MARK_CLOCK = 2;  ///< the clock begins
constexpr uint8_t MARK_PASS = 4;   ///< a pass is at work
constexpr uint8_t MARK_FRAME = 8;  ///< … and hands over a frame of a remote

// ---- pins: D0 to D13, A0 to A5 as 14 to 19 ----

constexpr uint8_t PINS = 20;
/// Writes the level first, then makes the pin an output: it never drives anything else.
void makeOutput(uint8_t pin, bool level);
void makeInput(uint8_t pin, bool pullUp);
void drive(uint8_t pin, bool level);
bool read(uint8_t pin);

// ---- clock ----

void startClock();
/// ms since startClock.
uint32_t milliseconds();
/// Sleeps until the next millisecond has begun, unless it already has.
void awaitTick();

// ---- serial link ----

void startSerial(uint32_t baud);
bool serialRead(char& character);
/// A line for which there is no room is left out whole; `serialOwesLine` then says so once there is room again.
void serialWrite(char character);
bool serialOwesLine();

// ---- infrared receiver: its output is low while it sees a mark ----

void startReceiver();
/// A frame that has ended, µs; it must be taken (releaseFrame) before the next one is collected.
bool frameWaits(const uint16_t*& durations, size_t& count);
void releaseFrame();

// ---- store ----

/// Bytes that are still on their way into the store; one takes 3.4 ms.
bool storeIsBusy();
uint8_t storeRead(void*, size_t at);
void storeWrite(void*, size_t at, uint8_t value);

// ---- sensors ----

/// Fill this in for your sensors (sensors.cpp): true and a reading in thousandths when there is a new one. It must return at
/// once: start a conversion in one call and fetch it in a later one.
bool readSensor(uint8_t sensor, uint32_t now, int32_t& thousandths);

}  // namespace board

#endif
