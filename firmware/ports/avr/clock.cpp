// One interrupt a millisecond, which takes a pass: timer 0 counts 16 MHz / 64 to 250 and begins anew (CTC mode; data
// sheet, from memory).
#include "board.h"

#include <avr/interrupt.h>
#include <avr/io.h>
#include <avr/sleep.h>
#include <util/atomic.h>

#if F_CPU != 16000000UL
#error "The clock counts on 16 MHz: change its divider together with F_CPU."
#endif

namespace board {

namespace {

volatile uint32_t ticks;
volatile bool passing;

}  // namespace

void startClock() {
  TCCR0A = static_cast<uint8_t>(1u << WGM01);
  OCR0A = 249;
  TCNT0 = 0;
  TIFR0 = static_cast<uint8_t>(1u << OCF0A);
  TIMSK0 = static_cast<uint8_t>(1u << OCIE0A);
  set_sleep_mode(SLEEP_MODE_IDLE);
  GPIOR0 = MARK_SAFE | MARK_CLOCK;
  TCCR0B = static_cast<uint8_t>((1u << CS01) | (1u << CS00));
  sei();
}

uint32_t milliseconds() {
  uint32_t now;
  ATOMIC_BLOCK(ATOMIC_RESTORESTATE) { now = ticks; }
  return now;
}

void rest() {
  sleep_enable();
  sleep_cpu();
  sleep_disable();
}

}  // namespace board

ISR(TIMER0_COMPA_vect) {
  board::ticks = board::ticks + 1;
  if (board::passing) return;
  board::passing = true;
  uint32_t begun;
  do {
    begun = board::ticks;
    sei();
    board::pass();
    cli();
  } while (begun != board::ticks);
  board::passing = false;
}
