// Durations of an infrared receiver: each change of its pin is stamped with timer 1, which counts 4 µs (16 MHz / 64).
#include "board.h"

#include <avr/interrupt.h>
#include <avr/io.h>

#include "sizes.h"

namespace board {

namespace {

constexpr bool FITTED = image::RECEIVER_PIN != vestibule::NO_PIN;
constexpr uint8_t MOST = FITTED ? 100 : 1;
constexpr uint16_t TICK_US = 4;
/// Longer than any space within a frame (the runtime's FRAME_GAP_US): the frame has ended. µs.
constexpr uint16_t GAP_US = 6000;

uint16_t durations[MOST];
volatile uint8_t count;
volatile uint16_t lastEdge;
volatile bool ended;

}  // namespace

void startReceiver() {
  if (!FITTED || image::RECEIVER_PIN >= PINS) return;
  const uint8_t pin = FITTED ? image::RECEIVER_PIN : 0;
  makeInput(pin, false);
  TCCR1A = 0;
  TCCR1B = static_cast<uint8_t>((1u << CS11) | (1u << CS10));
  if (pin < 8) {
    PCMSK2 = static_cast<uint8_t>(1u << (pin & 7));
    PCICR = static_cast<uint8_t>(1u << PCIE2);
  } else if (pin < 14) {
    PCMSK0 = static_cast<uint8_t>(1u << ((pin - 8) & 7));
    PCICR = static_cast<uint8_t>(1u << PCIE0);
  } else {
    PCMSK1 = static_cast<uint8_t>(1u << ((pin - 14) & 7));
    PCICR = static_cast<uint8_t>(1u << PCIE1);
  }
}

bool frameWaits(const uint16_t*& list, size_t& length) {
  cli();
  // an even count ends with a space that is no part of the frame: it cannot be, since a frame ends with a mark
  if (!ended && (count & 1) != 0 && static_cast<uint16_t>(TCNT1 - lastEdge) > GAP_US / TICK_US &&
      read(image::RECEIVER_PIN))
    ended = true;
  sei();
  list = durations;
  length = count;
  return ended;
}

void releaseFrame() {
  cli();
  count = 0;
  ended = false;
  sei();
}

static void edge() {
  const uint16_t now = TCNT1;
  const bool high = read(image::RECEIVER_PIN);
  const uint16_t passed = static_cast<uint16_t>(now - lastEdge);
  lastEdge = now;
  if (ended || count >= MOST) return;
  // The first edge of a frame begins a mark and has no duration yet: `high` ends a mark, which has the even places.
  if (high != ((count & 1) == 0) || (count == 0 && !high)) {
    if (!high) count = 0;
    return;
  }
  durations[count] = passed > 0xffffu / TICK_US ? 0xffffu : static_cast<uint16_t>(passed * TICK_US);
  count = static_cast<uint8_t>(count + 1);
}

}  // namespace board

ISR(PCINT0_vect) { board::edge(); }
ISR(PCINT1_vect) { board::edge(); }
ISR(PCINT2_vect) { board::edge(); }
