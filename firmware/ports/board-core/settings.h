// The one file to fill in for your board core.
#ifndef VESTIBULE_CORE_SETTINGS_H
#define VESTIBULE_CORE_SETTINGS_H

// The header that your board core's programs begin with: it gives pinMode, digitalRead, digitalWrite, millis, micros,
// attachInterrupt and Serial.
#ifndef VESTIBULE_CORE_HEADER
#error "Name your board core's header here, as in: #define VESTIBULE_CORE_HEADER <board.h>"
#endif

// Which bytes of the board's store are the controller's, from this address on.
#ifndef VESTIBULE_STORE_AT
#define VESTIBULE_STORE_AT 0
#endif

// Before a function that an interrupt calls: what your core wants there. A core that reads its program from flash stops
// when an interrupt comes while the store is written, unless the function stands in instruction memory: give its word
// for that here, as in
//   #define VESTIBULE_INTERRUPT INTERRUPT_IN_MEMORY
#ifndef VESTIBULE_INTERRUPT
#define VESTIBULE_INTERRUPT
#endif

// A frame of a remote takes this many durations at most.
#ifndef VESTIBULE_MOST_DURATIONS
#define VESTIBULE_MOST_DURATIONS 120
#endif

// The serial port of the link, and how it begins. image.h names its pins (LINE_SENDS, LINE_HEARS; 255: the board's
// first serial port): where your core's first port stands on others, name the one that stands there, or begin it on
// these pins, as in
//   #define VESTIBULE_LINE Serial1
//   #define VESTIBULE_LINE_BEGIN(baud) Serial1.begin(baud, SERIAL_8N1, image::LINE_HEARS, image::LINE_SENDS)
#ifndef VESTIBULE_LINE
#define VESTIBULE_LINE Serial
#endif
#ifndef VESTIBULE_LINE_BEGIN
#define VESTIBULE_LINE_BEGIN(baud) VESTIBULE_LINE.begin(baud)
#endif

// 1: the serial port is free for a log: the hash of the tables is said there at the start, at 115,200 baud.
#ifndef VESTIBULE_SERIAL_LOG
#define VESTIBULE_SERIAL_LOG 0
#endif

// 1: your sketch drives the pins of an expander or shift register (core::EXPANDER, see controller.h).
#ifndef VESTIBULE_EXPANDER
#define VESTIBULE_EXPANDER 0
#endif

// 1: the controller joins a network, with what secrets.h says.
#ifndef VESTIBULE_JOINS
#define VESTIBULE_JOINS 0
#endif

// 1: this board is the coprocessor of a pair. It runs the main board's image.h, drives nothing, and stands for the main
// board on the network; its serial line goes to the main board and carries nothing else.
#ifndef VESTIBULE_COPROCESSOR
#define VESTIBULE_COPROCESSOR 0
#endif

#endif
