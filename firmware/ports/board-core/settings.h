// What your board's core is called. One line must be filled in: the first.
#ifndef VESTIBULE_CORE_SETTINGS_H
#define VESTIBULE_CORE_SETTINGS_H

// The header that your board core's programs begin with: it gives pinMode, digitalRead, digitalWrite, millis, micros,
// attachInterrupt and Serial.
#ifndef VESTIBULE_CORE_HEADER
#error "Name your board core's header here, as in: #define VESTIBULE_CORE_HEADER <board.h>"
#endif

// ---- the rest fits the usual kind of Wi-Fi core as it stands; each line can be another ----

// Wi-Fi: the header, how one joins, and whether one has.
#ifndef VESTIBULE_WIFI_HEADER
#define VESTIBULE_WIFI_HEADER <WiFi.h>
#endif
#ifndef VESTIBULE_WIFI_BEGIN
#define VESTIBULE_WIFI_BEGIN(name, password) WiFi.begin(name, password)
#endif
#ifndef VESTIBULE_WIFI_JOINED
#define VESTIBULE_WIFI_JOINED() (WiFi.status() == WL_CONNECTED)
#endif
// The signal of the network, dBm; 0 where the core does not say.
#ifndef VESTIBULE_WIFI_SIGNAL
#define VESTIBULE_WIFI_SIGNAL() WiFi.RSSI()
#endif

// Where the controller is paired: it opens a network of its own with this name and its PIN as the password, and listens
// there (wires/pairing.h). A shorter PIN than 8 characters, which would leave that network open, does not compile.
#ifndef VESTIBULE_ACCESS_POINT
#define VESTIBULE_ACCESS_POINT(name, password) WiFi.softAP(name, password)
#endif
#ifndef VESTIBULE_ACCESS_POINT_ENDS
#define VESTIBULE_ACCESS_POINT_ENDS() WiFi.softAPdisconnect(true)
#endif
#ifndef VESTIBULE_PAIRING_PORT
#define VESTIBULE_PAIRING_PORT 8392
#endif

// Connections: the class of one, of one with TLS (none: a service with TLS is not reached), of what listens for calls,
// and of datagrams.
#ifndef VESTIBULE_CLIENT
#define VESTIBULE_CLIENT WiFiClient
#endif
#ifndef VESTIBULE_LISTENER
#define VESTIBULE_LISTENER WiFiServer
#endif
#ifndef VESTIBULE_UDP_HEADER
#define VESTIBULE_UDP_HEADER <WiFiUdp.h>
#endif
#ifndef VESTIBULE_UDP
#define VESTIBULE_UDP WiFiUDP
#endif
// as in: #define VESTIBULE_SECURE_CLIENT WiFiClientSecure, and below it how it takes its certificate, which secrets.h
// holds as VESTIBULE_ROOT_CERTIFICATE
#ifndef VESTIBULE_SECURE_BEGIN
#define VESTIBULE_SECURE_BEGIN(client) client.setCACert(VESTIBULE_ROOT_CERTIFICATE)
#endif

// On most cores connecting waits for the other end. Where yours has tasks, name the one that starts one here, so that a
// press never waits for a service that does not answer; `work` is a function, `what` its argument:
//   #define VESTIBULE_TASK(work, what) xTaskCreate(work, "connect", 4096, what, 1, nullptr)
// and how a task ends, if it must say so. Without tasks a press waits while a link connects, this long at most, ms.
#ifndef VESTIBULE_TASK_ENDS
#define VESTIBULE_TASK_ENDS()
#endif
#ifndef VESTIBULE_CONNECT_MS
#define VESTIBULE_CONNECT_MS 400
#endif

// The store: the header, and how its bytes are begun, read, written and kept.
#ifndef VESTIBULE_STORE_HEADER
#define VESTIBULE_STORE_HEADER <EEPROM.h>
#endif
#ifndef VESTIBULE_STORE_BEGIN
#define VESTIBULE_STORE_BEGIN(bytes) EEPROM.begin(bytes)
#endif
#ifndef VESTIBULE_STORE_READ
#define VESTIBULE_STORE_READ(at) EEPROM.read(at)
#endif
#ifndef VESTIBULE_STORE_WRITE
#define VESTIBULE_STORE_WRITE(at, value) EEPROM.write(at, value)
#endif
#ifndef VESTIBULE_STORE_COMMIT
#define VESTIBULE_STORE_COMMIT() EEPROM.commit()
#endif

// Local time, for schedules: minutes east of Greenwich, and the rule of summer time (wires/sntp.h: none, lastSundays,
// secondSunday). The time server stands in secrets.h.
#ifndef VESTIBULE_UTC_OFFSET_MINUTES
#define VESTIBULE_UTC_OFFSET_MINUTES 0
#endif
#ifndef VESTIBULE_SUMMER_TIME
#define VESTIBULE_SUMMER_TIME none
#endif
#ifndef VESTIBULE_TIME_PORT
#define VESTIBULE_TIME_PORT 123
#endif

// Room for what waits to be sent on each link, bytes.
#ifndef VESTIBULE_OUT_BYTES
#define VESTIBULE_OUT_BYTES 4096
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
