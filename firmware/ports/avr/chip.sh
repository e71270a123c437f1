#!/bin/sh
# Prints the 8-bit board's chip as the compiler calls it: of those that avr-libc describes, the first with 32 KiB of flash, 2 KiB of
# memory, 1 KiB of store, one serial port, and ports B, C and D only. `make MCU=…` names another.
folder=${1:-/usr/lib/avr/include/avr}
for header in "$folder"/iom*.h; do
  grep -qE 'FLASHEND +\(?0x7FFF' "$header" && grep -qE 'RAMEND +\(?0x0?8FF' "$header" && grep -qE 'E2END +\(?0x0?3FF' "$header" || continue
  grep -qw 'PCICR' "$header" && grep -qw 'TCCR0B' "$header" && grep -q 'USART_RX_vect' "$header" && ! grep -qwE 'PORT[AE]' "$header" || continue
  macro=$(grep -B1 "include <avr/$(basename "$header")>" "$folder/io.h" | grep -oE '__AVR_[A-Za-z0-9]+__' | head -1)
  [ -n "$macro" ] || continue
  echo "$macro" | sed 's/^__AVR_//; s/__$//' | tr 'A-Z' 'a-z'
  exit 0
done
echo "no chip of avr-libc fits the 8-bit board: name it with MCU=" >&2
exit 1
