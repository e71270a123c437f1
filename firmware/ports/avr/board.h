// The 8-bit board: what the port's files offer to each other. 16 MHz, one serial port on D0 and D1, 1 KiB of store.
//
// Once a millisecond a pass takes what has come (levels, frames, characters, readings) and hands it to the runtime. It
// interrupts the main loop, which sleeps, or decodes a frame of a remote: that takes some ms and never holds up a pass.
// The other interrupts only put aside: durations, characters, bytes for the store.
#ifndef VESTIBULE_AVR_BOARD_H
#define VESTIBULE_AVR_BOARD_H

#include <stddef.h>
#include <stdint.h>

#ifdef VESTIBULE_MODEM
#include "vestibule.h"
#endif

namespace board {

/// Marks for a logic analyser or a simulator, in a register that nothing else uses.
constexpr uint8_t MARK_SAFE = 1;   ///< pins are made, outputs at their safe levels
constexpr uint8_t MARK_CLOCK = 2;  ///< the clock begins
constexpr uint8_t MARK_PASS = 4;   ///< a pass is at work
constexpr uint8_t MARK_FRAME = 8;  ///< … and hands over a frame of a remote
/// In a second one, which only the main loop writes.
constexpr uint8_t MARK_DECODES = 1;

// ---- pins: D0 to D13, A0 to A5 as 14 to 19 ----

constexpr uint8_t PINS = 20;
/// Writes the level first, then makes the pin an output: it never drives anything else.
void makeOutput(uint8_t pin, bool level);
void makeInput(uint8_t pin, bool pullUp);
void drive(uint8_t pin, bool level);
bool read(uint8_t pin);
/// From now on pinsMoved looks at this input.
void watch(uint8_t pin);
/// Has a watched input moved since the last call?
bool pinsMoved();

// ---- clock ----

void startClock();
/// ms since startClock.
uint32_t milliseconds();
/// In main.cpp, called each millisecond, and at once again when it took longer. Interrupts are on in it; it does not
/// interrupt itself.
void pass();
/// Sleeps until something has happened.
void rest();

// ---- serial link ----

void startSerial(uint32_t baud);
bool serialRead(char& character);
/// A line waits: its characters are fetched (nextOfLine) and sent, one after the other.
void serialSaysLine();
/// In main.cpp, called from an interrupt: false: the line has been said.
bool nextOfLine(char& character);

#ifdef VESTIBULE_MODEM
/// The same port, when a modem hangs on it: a character goes out, if there is room.
bool serialWrite(char character);
/// Has something come?
bool serialStirs();

// ---- network: the one link, over the modem (network.cpp) ----

void startNetwork();
/// The modem's own work; true: something may have come, so take a pass of the network.
bool networkStirs(uint32_t now);
/// Between the runtime's begin and finish.
void networkBefore(uint32_t now);
/// Behind its finish, and in idle passes too.
void networkAfter(uint32_t now);
/// Have reports waited for room, and is there some now?
bool networkHasRoomAgain();
void publish(void*, uint8_t link, const char* topic, const char* payload, bool retain);
void subscribe(void*, uint8_t link, const char* topic);
void join(void*, uint8_t link);
bool hasRoom(void*, uint8_t link);
#endif

// ---- infrared receiver: its output is low while it sees a mark ----

void startReceiver();
/// A frame that has ended, µs; it must be taken (releaseFrame) before the next one is collected.
bool frameWaits(const uint16_t*& durations, size_t& count);
void releaseFrame();

// ---- store ----

/// Bytes that are still on their way into the store; one takes 3.4 ms.
bool storeIsBusy();
uint8_t storeRead(void*, size_t at);
/// Puts a byte of a record aside …
void storeWrite(void*, size_t at, uint8_t value);
/// … and lets the whole record go out; or forgets it, when what it was made of has changed meanwhile.
void storeGoes(const volatile bool& changed);

// ---- sensors ----

/// Fill this in for your sensors (sensors.cpp): true and a reading in thousandths when there is a new one. It must
/// return at once: start a conversion in one call and fetch it in a later one.
bool readSensor(uint8_t sensor, uint32_t now, int32_t& thousandths);

}  // namespace board

#endif
