// Runs a controller's program for the 8-bit board on simavr, an independent simulator of that core, and says what its
// pins and its serial port do. Times are µs of the trace; while the board starts, the trace stands still.
//
//   simavr PROGRAM.elf CHIP PIN:SAFE…        each output pin with its safe level
//
// standard input, in order of time:          standard output:
//   R us          power on                     D us pin level   an output changes
//   P us pin 0|1  a level at an input          L us text        a line on the serial port
//   C us code     a character arrives          X us text        what must not be
//   O us          power off                    F us             a frame of a remote is handed over
//                                              W cycles passes  the longest pass, and how many there were
//                                              Z cycles         the longest pass of the first 100 ms
//                                              I cycles         the longest decoding of a frame, passes in between
//                                              included
//   E us          end                          M bytes          stack and data in use at most
//
//   simavr PROGRAM.elf CHIP live BAUD PIN:SAFE…    the same in real time, with a device on the serial port
//
// There commands have no time, and more: B hex… (bytes for the serial port), and U hex… says what it sends.
#include <poll.h>
#include <simavr/avr_ioport.h>
#include <simavr/avr_uart.h>
#include <simavr/sim_avr.h>
#include <simavr/sim_elf.h>

#include <cinttypes>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <ctime>
#include <deque>
#include <string>

#include <unistd.h>

namespace {

constexpr uint32_t HZ = 16000000;
constexpr uint16_t MARKS = 0x3e;    // GPIOR0 in the data space
constexpr uint16_t DECODES = 0x4a;  // GPIOR1
/// All inputs settle at once in the first tenth of a second; what that takes is counted by itself.
constexpr avr_cycle_count_t START_UP = HZ / 10;
constexpr uint8_t MARK_CLOCK = 2;
constexpr uint8_t MARK_PASS = 4;
constexpr uint8_t MARK_FRAME = 8;
constexpr uint16_t SENSE = 0x69;  // EICRA
constexpr int PINS = 20;
constexpr uint8_t UNTOUCHED = 0xa5;

avr_t* avr;
bool safe;
bool started;
bool running;
avr_cycle_count_t base;
uint64_t baseMicroseconds;
avr_cycle_count_t passBegan;
avr_cycle_count_t worst;
avr_cycle_count_t startWorst;
avr_cycle_count_t decodeBegan;
avr_cycle_count_t decodeWorst;
uint64_t passes;
int safeLevel[PINS];
int inputLevel[PINS];
int driven[PINS];
std::string line;
bool live;
std::deque<uint8_t> coming;

uint64_t now() { return started ? baseMicroseconds + (avr->cycle - base) / (HZ / 1000000) : baseMicroseconds; }
char portOf(int pin) { return pin < 8 ? 'D' : pin < 14 ? 'B' : 'C'; }
int bitOf(int pin) { return pin < 8 ? pin : pin < 14 ? pin - 8 : pin - 14; }
avr_irq_t* pinIrq(int pin) { return avr_io_getirq(avr, AVR_IOCTL_IOPORT_GETIRQ(portOf(pin)), bitOf(pin)); }

void pinChanges(avr_irq_t*, uint32_t value, void* param) {
  const int pin = static_cast<int>(reinterpret_cast<intptr_t>(param));
  const int level = value & 1;
  if (!running || driven[pin] == level) return;
  if (!safe) {
    if (level != safeLevel[pin])
      printf("X %" PRIu64 " pin %d leaves its safe level before the firmware has started\n", now(), pin);
    return;
  }
  driven[pin] = level;
  printf("D %" PRIu64 " %d %d\n", now(), pin, level);
}

void directionChanges(avr_irq_t*, uint32_t value, void* param) {
  const char port = static_cast<char>(reinterpret_cast<intptr_t>(param));
  if (!running || safe) return;
  for (int pin = 0; pin < PINS; pin++) {
    if (portOf(pin) != port || safeLevel[pin] < 0 || (value & (1u << bitOf(pin))) == 0) continue;
    avr_ioport_state_t state;
    avr_ioctl(avr, AVR_IOCTL_IOPORT_GETSTATE(port), &state);
    const int level = (state.port >> bitOf(pin)) & 1;
    if (level != safeLevel[pin])
      printf("X %" PRIu64 " pin %d becomes an output at %d, not at its safe level\n", now(), pin, level);
  }
}

void markChanges(avr_t*, avr_io_addr_t at, uint8_t value, void*) {
  avr->data[at] = value;
  safe = true;
  if (!started) {
    started = (value & MARK_CLOCK) != 0;
    base = avr->cycle;
    return;
  }
  if (value & MARK_FRAME) {
    printf("F %" PRIu64 "\n", now());
  } else if (value & MARK_PASS) {
    passBegan = avr->cycle;
  } else {
    passes++;
    avr_cycle_count_t& longest = avr->cycle - base < START_UP ? startWorst : worst;
    if (avr->cycle - passBegan > longest) longest = avr->cycle - passBegan;
  }
}

void decodeChanges(avr_t*, avr_io_addr_t at, uint8_t value, void*) {
  avr->data[at] = value;
  if (value) {
    decodeBegan = avr->cycle;
  } else if (avr->cycle - decodeBegan > decodeWorst) {
    decodeWorst = avr->cycle - decodeBegan;
  }
}

void serialSays(avr_irq_t*, uint32_t value, void*) {
  if (live) {
    printf("U %02x\n", static_cast<unsigned>(value & 0xff));
    return;
  }
  if (value == '\n') {
    printf("L %" PRIu64 " %s\n", now(), line.c_str());
    line.clear();
  } else {
    line += static_cast<char>(value);
  }
}

void setInput(int pin, int level) {
  inputLevel[pin] = level;
  avr_ioport_external_t external = {};
  external.name = static_cast<unsigned long>(portOf(pin));
  for (int other = 0; other < PINS; other++) {
    if (portOf(other) != portOf(pin) || inputLevel[other] < 0) continue;
    external.mask |= 1ul << bitOf(other);
    if (inputLevel[other]) external.value |= 1ul << bitOf(other);
  }
  avr_ioctl(avr, AVR_IOCTL_IOPORT_SET_EXTERNAL(portOf(pin)), &external);
  avr_raise_irq(pinIrq(pin), level);
}

avr_cycle_count_t wake(avr_t*, avr_cycle_count_t, void*) { return 0; }

// A simulated sleep costs no time of ours.
void noSleep(avr_t*, avr_cycle_count_t) {}

void runUntil(uint64_t microseconds) {
  if (!running || microseconds <= baseMicroseconds) return;
  const avr_cycle_count_t target = base + (microseconds - baseMicroseconds) * (HZ / 1000000);
  if (target <= avr->cycle) return;
  avr_cycle_timer_cancel(avr, wake, nullptr);
  avr_cycle_timer_register(avr, target - avr->cycle, wake, nullptr);
  while (avr->cycle < target) {
    const int state = avr_run(avr);
    if (state == cpu_Done || state == cpu_Crashed) {
      printf("X %" PRIu64 " the program has stopped\n", now());
      running = false;
      return;
    }
  }
}

void powerOn(uint64_t microseconds) {
  // a reset alone would leave what the timers had under way
  avr_cycle_timer_reset(avr);
  avr_reset(avr);
  // set to levels, the simulator would look at D2 and D3 in each cycle while they are low, though nobody asked for
  // their interrupts
  avr->data[SENSE] = 0x05;
  started = safe = false;
  running = true;
  line.clear();
  baseMicroseconds = microseconds;
  for (int pin = 0; pin < PINS; pin++) {
    driven[pin] = safeLevel[pin];
    if (inputLevel[pin] < 0) continue;
    // the simulator forgets levels at a reset, and passes on only what changes
    const int level = inputLevel[pin];
    avr_raise_irq(pinIrq(pin), !level);
    setInput(pin, level);
  }
  const avr_cycle_count_t longest = avr->cycle + HZ;
  while (!started && avr->cycle < longest) avr_run(avr);
  if (!started) {
    printf("X %" PRIu64 " the firmware does not start within a second\n", now());
    exit(1);
  }
}

// ---- real time ----

avr_cycle_count_t byteCycles;

// The device on the serial port sends a byte each byte's time.
avr_cycle_count_t nextByte(avr_t*, avr_cycle_count_t when, void*) {
  if (!coming.empty()) {
    avr_raise_irq(avr_io_getirq(avr, AVR_IOCTL_UART_GETIRQ('0'), UART_IRQ_INPUT), coming.front());
    coming.pop_front();
  }
  return when + byteCycles;
}

uint64_t clockMicroseconds() {
  timespec time;
  clock_gettime(CLOCK_MONOTONIC, &time);
  return static_cast<uint64_t>(time.tv_sec) * 1000000u + static_cast<uint64_t>(time.tv_nsec) / 1000u;
}

void bytesCome(const char* hex) {
  for (unsigned byte; sscanf(hex, "%2x", &byte) == 1; hex += 2) coming.push_back(static_cast<uint8_t>(byte));
}

// One command; false: it is the end.
bool obeys(const std::string& command, uint64_t at) {
  int pin, level;
  switch (command[0]) {
    case 'R':
      powerOn(at);
      avr_cycle_timer_register(avr, byteCycles, nextByte, nullptr);
      return true;
    case 'O': running = false; return true;
    case 'B': bytesCome(command.c_str() + 2); return true;
    case 'P':
      if (sscanf(command.c_str() + 1, "%d %d", &pin, &level) == 2) setInput(pin, level);
      return true;
    default: return false;
  }
}

// Until the end of the commands, or E: each some hundred µs of the board, and never ahead of the clock.
void lives() {
  constexpr uint64_t STEP_US = 200;
  const uint64_t began = clockMicroseconds();
  std::string buffer;
  char chunk[1024];
  for (;;) {
    const uint64_t at = clockMicroseconds() - began;
    pollfd wait = {STDIN_FILENO, POLLIN, 0};
    if (poll(&wait, 1, 0) > 0) {
      const ssize_t size = read(STDIN_FILENO, chunk, sizeof chunk);
      if (size <= 0) return;
      buffer.append(chunk, static_cast<size_t>(size));
    }
    for (size_t end = buffer.find('\n'); end != std::string::npos; end = buffer.find('\n')) {
      const bool goesOn = obeys(buffer.substr(0, end), at);
      buffer.erase(0, end + 1);
      if (!goesOn) return;
    }
    runUntil(at);
    fflush(stdout);
    const uint64_t now = clockMicroseconds() - began;
    if (now < at + STEP_US) usleep(static_cast<useconds_t>(at + STEP_US - now));
  }
}

}  // namespace

int main(int count, char** words) {
  if (count < 3) return 2;
  elf_firmware_t firmware = {};
  if (elf_read_firmware(words[1], &firmware) != 0) return 2;
  avr = avr_make_mcu_by_name(words[2]);
  if (!avr) return 2;
  avr_init(avr);
  avr->log = LOG_NONE;
  avr->frequency = HZ;
  avr_load_firmware(avr, &firmware);
  avr->sleep = noSleep;
  for (int pin = 0; pin < PINS; pin++) safeLevel[pin] = inputLevel[pin] = -1;
  live = count > 4 && strcmp(words[3], "live") == 0;
  if (live) byteCycles = HZ / static_cast<avr_cycle_count_t>(atoi(words[4])) * 10;
  for (int i = live ? 5 : 3; i < count; i++) {
    const int pin = atoi(words[i]);
    safeLevel[pin] = atoi(strchr(words[i], ':') + 1);
    avr_irq_register_notify(pinIrq(pin), pinChanges, reinterpret_cast<void*>(static_cast<intptr_t>(pin)));
  }
  for (const char port : {'B', 'C', 'D'})
    avr_irq_register_notify(avr_io_getirq(avr, AVR_IOCTL_IOPORT_GETIRQ(port), IOPORT_IRQ_DIRECTION_ALL),
                            directionChanges, reinterpret_cast<void*>(static_cast<intptr_t>(port)));
  avr_register_io_write(avr, MARKS, markChanges, nullptr);
  avr_register_io_write(avr, DECODES, decodeChanges, nullptr);
  uint32_t flags = 0;
  avr_ioctl(avr, AVR_IOCTL_UART_GET_FLAGS('0'), &flags);
  flags &= ~static_cast<uint32_t>(AVR_UART_FLAG_STDIO | AVR_UART_FLAG_POLL_SLEEP);
  avr_ioctl(avr, AVR_IOCTL_UART_SET_FLAGS('0'), &flags);
  avr_irq_register_notify(avr_io_getirq(avr, AVR_IOCTL_UART_GETIRQ('0'), UART_IRQ_OUTPUT), serialSays, nullptr);
  // what the stack never reaches keeps its pattern
  const uint16_t ramStart = 0x100, ramEnd = avr->ramend;

  bool filled = false;
  const auto fills = [&]() {
    if (!filled) memset(avr->data + ramStart, UNTOUCHED, ramEnd - ramStart + 1u);
    filled = true;
  };
  if (live) {
    fills();
    lives();
  }
  char what;
  uint64_t at;
  while (!live && scanf(" %c %" SCNu64, &what, &at) == 2) {
    runUntil(at);
    if (what == 'R') {
      fills();
      powerOn(at);
    } else if (what == 'O') {
      running = false;
    } else if (what == 'P') {
      int pin, level;
      if (scanf("%d %d", &pin, &level) != 2) return 2;
      setInput(pin, level);
    } else if (what == 'C') {
      int code;
      if (scanf("%d", &code) != 1) return 2;
      avr_raise_irq(avr_io_getirq(avr, AVR_IOCTL_UART_GETIRQ('0'), UART_IRQ_INPUT), static_cast<uint32_t>(code));
    } else if (what == 'E') {
      break;
    }
  }
  int untouched = 0, longest = 0;
  for (uint16_t i = ramStart; i <= ramEnd; i++) {
    untouched = avr->data[i] == UNTOUCHED ? untouched + 1 : 0;
    if (untouched > longest) longest = untouched;
  }
  printf("W %" PRIu64 " %" PRIu64 "\n", static_cast<uint64_t>(worst), passes);
  printf("Z %" PRIu64 "\n", static_cast<uint64_t>(startWorst));
  printf("I %" PRIu64 "\n", static_cast<uint64_t>(decodeWorst));
  printf("M %d\n", ramEnd - ramStart + 1 - longest);
  return 0;
}
