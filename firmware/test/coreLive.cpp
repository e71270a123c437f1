// A whole sketch on a stand-in for its core, in real time, with real sockets: what a maker flashes, but for the chip.
//
// Standard input: `P pin level` sets a level; `W 0|1` the Wi-Fi is gone, is there; `E` ends.
// Standard output, with ms: `D pin level` an output changes; `A name` it has a network of its own, under that name; `W
// us` the longest pass so far, at the end.
#include "mockCore.h"

#include <poll.h>
#include <time.h>
#include <unistd.h>

#include <cstdio>
#include <sstream>
#include <string>

#include "EEPROM.h"
#include "WiFi.h"

MockSerial Serial;
MockWiFi WiFi;
MockStore EEPROM;

void setup();
void loop();

namespace {

int levels[256];
int modes[256];

unsigned long us() {
  static timespec start = {0, 0};
  timespec now;
  clock_gettime(CLOCK_MONOTONIC, &now);
  if (start.tv_sec == 0) start = now;
  return static_cast<unsigned long>((now.tv_sec - start.tv_sec) * 1000000L + (now.tv_nsec - start.tv_nsec) / 1000L);
}

bool apply(const std::string& line) {
  std::istringstream words(line);
  std::string what;
  int first = 0, second = 0;
  words >> what >> first >> second;
  if (what == "E") return false;
  if (what == "P") levels[first] = second;
  if (what == "W") WiFi.there = first != 0;
  return true;
}

}  // namespace

void digitalWrite(uint8_t pin, uint8_t level) {
  if (modes[pin] == OUTPUT && levels[pin] != level) std::printf("%lu D %d %d\n", millis(), pin, level);
  levels[pin] = level;
}
void pinMode(uint8_t pin, uint8_t mode) { modes[pin] = mode; }
int digitalRead(uint8_t pin) { return levels[pin]; }
unsigned long millis() { return us() / 1000; }
unsigned long micros() { return us(); }
void attachInterrupt(int, void (*)(), int) {}
void MockSerial::begin(unsigned long) {}
int MockSerial::available() { return 0; }
int MockSerial::read() { return -1; }
size_t MockSerial::write(uint8_t byte) {
  std::putchar(byte);
  return 1;
}

int main() {
  std::setvbuf(stdout, nullptr, _IOLBF, 0);
  for (int pin = 0; pin < 256; pin++) levels[pin] = HIGH;
  for (uint8_t& byte : EEPROM.bytes) byte = 0xff;
  setup();
  std::string buffer;
  std::string shown;
  unsigned long longest = 0;
  for (bool on = true; on;) {
    const unsigned long from = us();
    loop();
    const unsigned long took = us() - from;
    if (WiFi.accessPoint != shown) std::printf("%lu A %s\n", millis(), WiFi.accessPoint.c_str());
    shown = WiFi.accessPoint;
    if (took > longest) longest = took;
    pollfd wait = {STDIN_FILENO, POLLIN, 0};
    if (poll(&wait, 1, 1) != 1) continue;
    char chunk[256];
    const ssize_t size = read(STDIN_FILENO, chunk, sizeof chunk);
    if (size <= 0) break;
    buffer.append(chunk, static_cast<size_t>(size));
    for (size_t end = buffer.find('\n'); end != std::string::npos && on; end = buffer.find('\n')) {
      on = apply(buffer.substr(0, end));
      buffer.erase(0, end + 1);
    }
  }
  std::printf("%lu W %lu\n", millis(), longest);
  return 0;
}
