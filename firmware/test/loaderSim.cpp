// Runs the boot loader of the 8-bit board on simavr, an independent simulator of that core, with a device on its serial
// port.
//
//   loaderSim LOADER.elf CHIP BAUD
//
// standard input:                          standard output:
//   R      power on, or a reset              U hex   a byte that it sends
//   O      power off                         S       the program has begun, below the loader
//   B hex  bytes for the serial port         F hex   flash, all before the loader
//   F      say the flash
#include <poll.h>
#include <simavr/avr_uart.h>
#include <simavr/sim_avr.h>
#include <simavr/sim_elf.h>

#include <cstdio>
#include <cstdlib>
#include <deque>
#include <string>

#include <unistd.h>

namespace {

constexpr uint32_t HZ = 16000000;
constexpr avr_flashaddr_t LOADER = 0x7c00;
/// Commands are looked for so often, cycles.
constexpr avr_cycle_count_t TURN = HZ / 2000;

avr_t* avr;
std::deque<uint8_t> coming;
avr_cycle_count_t byteCycles;
bool running;
bool begun;

void says(avr_irq_t*, uint32_t value, void*) { printf("U %02x\n", static_cast<unsigned>(value & 0xff)); }

avr_cycle_count_t nextByte(avr_t*, avr_cycle_count_t when, void*) {
  if (!coming.empty()) {
    avr_raise_irq(avr_io_getirq(avr, AVR_IOCTL_UART_GETIRQ('0'), UART_IRQ_INPUT), coming.front());
    coming.pop_front();
  }
  return when + byteCycles;
}

void powerOn() {
  avr_cycle_timer_reset(avr);
  avr_reset(avr);
  avr->pc = LOADER;
  coming.clear();
  running = true;
  begun = false;
  avr_cycle_timer_register(avr, byteCycles, nextByte, nullptr);
}

void obeys(const std::string& command) {
  switch (command[0]) {
    case 'R': return powerOn();
    case 'O': running = false; return;
    case 'F':
      printf("F ");
      for (avr_flashaddr_t at = 0; at < LOADER; at++) printf("%02x", avr->flash[at]);
      printf("\n");
      return;
    case 'B': {
      const char* hex = command.c_str() + 2;
      for (unsigned byte; sscanf(hex, "%2x", &byte) == 1; hex += 2) coming.push_back(static_cast<uint8_t>(byte));
      return;
    }
    default: exit(0);
  }
}

}  // namespace

int main(int count, char** words) {
  if (count < 4) return 2;
  elf_firmware_t firmware = {};
  if (elf_read_firmware(words[1], &firmware) != 0) return 2;
  avr = avr_make_mcu_by_name(words[2]);
  if (!avr) return 2;
  avr_init(avr);
  avr->log = LOG_NONE;
  avr->frequency = HZ;
  firmware.flashbase = LOADER;
  avr_load_firmware(avr, &firmware);
  // there is a program below it, later
  avr->codeend = avr->flashend;
  byteCycles = HZ / static_cast<avr_cycle_count_t>(atoi(words[3])) * 10;
  uint32_t flags = 0;
  avr_ioctl(avr, AVR_IOCTL_UART_GET_FLAGS('0'), &flags);
  flags &= ~static_cast<uint32_t>(AVR_UART_FLAG_STDIO | AVR_UART_FLAG_POLL_SLEEP);
  avr_ioctl(avr, AVR_IOCTL_UART_SET_FLAGS('0'), &flags);
  avr_irq_register_notify(avr_io_getirq(avr, AVR_IOCTL_UART_GETIRQ('0'), UART_IRQ_OUTPUT), says, nullptr);
  std::string buffer;
  char chunk[4096];
  for (;;) {
    pollfd wait = {STDIN_FILENO, POLLIN, 0};
    if (poll(&wait, 1, running ? 0 : 50) > 0) {
      const ssize_t size = read(STDIN_FILENO, chunk, sizeof chunk);
      if (size <= 0) return 0;
      buffer.append(chunk, static_cast<size_t>(size));
    }
    for (size_t end = buffer.find('\n'); end != std::string::npos; end = buffer.find('\n')) {
      obeys(buffer.substr(0, end));
      buffer.erase(0, end + 1);
    }
    if (running)
      for (const avr_cycle_count_t turn = avr->cycle + TURN; avr->cycle < turn;) {
        const int state = avr_run(avr);
        if (state == cpu_Done || state == cpu_Crashed) {
          running = false;
          break;
        }
        if (!begun && avr->pc < LOADER) {
          begun = true;
          printf("S\n");
        }
      }
    fflush(stdout);
  }
}
