// The serial port: characters in through a small ring, lines out a character at a time, both by interrupts. 8 bits, no
// parity, one stop bit.
#include "board.h"

#include <avr/interrupt.h>
#include <avr/io.h>

namespace board {

namespace {

#ifdef VESTIBULE_MODEM
// what a modem sends between two passes, and more while a pass is at work
constexpr uint8_t IN = 64;
constexpr uint8_t OUT = 16;
volatile uint8_t outHead, outTail;
char out[OUT];
#else
constexpr uint8_t IN = 16;
#endif

volatile uint8_t inHead, inTail;
char in[IN];

}  // namespace

void startSerial(uint32_t baud) {
  if (baud == 0) return;
  // double speed keeps the error of 115,200 baud at 2.1 %, of 9,600 at 0.2 % (data sheet, table of rates; from memory)
  const uint16_t divider = static_cast<uint16_t>((F_CPU / 4 / baud - 1) / 2);
  UBRR0H = static_cast<uint8_t>(divider >> 8);
  UBRR0L = static_cast<uint8_t>(divider);
  UCSR0A = static_cast<uint8_t>(1u << U2X0);
  UCSR0C = static_cast<uint8_t>((1u << UCSZ01) | (1u << UCSZ00));
  UCSR0B = static_cast<uint8_t>((1u << RXEN0) | (1u << TXEN0) | (1u << RXCIE0));
}

bool serialRead(char& character) {
  if (inHead == inTail) return false;
  character = in[inTail];
  inTail = static_cast<uint8_t>((inTail + 1) % IN);
  return true;
}

#ifdef VESTIBULE_MODEM
bool serialStirs() { return inHead != inTail; }

bool serialWrite(char character) {
  const uint8_t next = static_cast<uint8_t>((outHead + 1) % OUT);
  if (next == outTail) return false;
  out[outHead] = character;
  // the character must stand there before the interrupt may fetch it
  __asm__ __volatile__("" ::: "memory");
  outHead = next;
  UCSR0B = static_cast<uint8_t>(UCSR0B | (1u << UDRIE0));
  return true;
}
#endif

void serialSaysLine() {
  // what the line says must stand in memory before the interrupt may fetch it
  __asm__ __volatile__("" ::: "memory");
  UCSR0B = static_cast<uint8_t>(UCSR0B | (1u << UDRIE0));
}

}  // namespace board

ISR(USART_RX_vect) {
  const char character = static_cast<char>(UDR0);
  const uint8_t next = static_cast<uint8_t>((board::inHead + 1) % board::IN);
  // a ring that is full loses the newest: whoever sends that fast gets no answer in between anyway
  if (next == board::inTail) return;
  board::in[board::inHead] = character;
  board::inHead = next;
}

ISR(USART_UDRE_vect) {
#ifdef VESTIBULE_MODEM
  if (board::outTail != board::outHead) {
    UDR0 = static_cast<uint8_t>(board::out[board::outTail]);
    board::outTail = static_cast<uint8_t>((board::outTail + 1) % board::OUT);
    return;
  }
#else
  char character;
  if (board::nextOfLine(character)) {
    UDR0 = static_cast<uint8_t>(character);
    return;
  }
#endif
  UCSR0B = static_cast<uint8_t>(UCSR0B & ~(1u << UDRIE0));
}
