// The native runtime's speed: the same stream of input levels as tools/bench.ts gives the interpreter. Prints events a
// second and how many outputs came of them.
#include <time.h>

#include <cstdio>
#include <cstdlib>

#include "memory.h"

namespace {

using namespace vestibule;
using memory::atLeastOne;
using memory::device;

unsigned long outputs = 0;

const Port PORT = {
    nullptr,
    [](void*, uint8_t, uint8_t, bool, bool) { outputs++; },
    [](void*, uint8_t, const char*, const char*, bool) {},
    [](void*, uint8_t, const char*) {},
    [](void*, uint8_t) {},
    [](void*) {},
    [](void*) {
      char character;
      while (lineCharacter(device, character)) {
      }
    },
    [](void*, char) {},
    [](void*, bool) {},
    nullptr,
};

}  // namespace

int main(int, char** words) {
  const long events = std::atol(words[1]);
  vestibule::memory::prepared(PORT);
  begin(device, 0);
  power(device, true);
  finish(device);
  uint8_t levels[atLeastOne(image::INPUT_COUNT)];
  for (uint8_t& level : levels) level = 1;
  uint32_t state = 1, now = 0;
  timespec start, end;
  clock_gettime(CLOCK_MONOTONIC, &start);
  for (long i = 0; i < events; i++) {
    state = state * 1664525u + 1013904223u;
    const uint8_t input = static_cast<uint8_t>((state >> 16) % image::INPUT_COUNT);
    now += 1 + (state >> 28);
    levels[input] ^= 1;
    begin(device, now);
    level(device, input, 0, levels[input]);
    finish(device);
  }
  clock_gettime(CLOCK_MONOTONIC, &end);
  const double seconds =
      static_cast<double>(end.tv_sec - start.tv_sec) + static_cast<double>(end.tv_nsec - start.tv_nsec) / 1e9;
  std::printf("%.0f %lu\n", static_cast<double>(events) / seconds, outputs);
  return 0;
}
