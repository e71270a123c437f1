// Speed of the wire engine and of the MQTT client: messages a second there and back, and the longest pass, µs. The far
// end is memory: what is measured is ours alone.
#include <time.h>

#include <cstdio>
#include <cstdlib>
#include <cstring>

#include "memory.h"
#include "transports.h"
#include "wires_memory.h"

namespace {

using namespace vestibule;

double seconds() {
  timespec now;
  clock_gettime(CLOCK_MONOTONIC, &now);
  return static_cast<double>(now.tv_sec) + static_cast<double>(now.tv_nsec) / 1e9;
}

/// A far end that lets in at once and then sends what it is told to.
struct Pipe {
  uint8_t bytes[256];
  size_t size = 0;
  size_t at = 0;
  bool open = false;
  unsigned long taken = 0;
};
Pipe pipe_;

const wires::Socket SOCKET = {
    &pipe_,
    [](void* context, const char*, uint16_t, bool) {
      static_cast<Pipe*>(context)->open = true;
      return true;
    },
    [](void* context) {
      return static_cast<Pipe*>(context)->open ? wires::Connection::open : wires::Connection::closed;
    },
    [](void* context, uint8_t* buffer, size_t size) {
      Pipe& own = *static_cast<Pipe*>(context);
      const size_t left = own.size - own.at < size ? own.size - own.at : size;
      std::memcpy(buffer, own.bytes + own.at, left);
      own.at += left;
      return left;
    },
    [](void* context, const uint8_t*, size_t size) {
      static_cast<Pipe*>(context)->taken += size;
      return size;
    },
    [](void* context) { static_cast<Pipe*>(context)->open = false; },
};

void comes(const uint8_t* bytes, size_t size) {
  std::memcpy(pipe_.bytes, bytes, size);
  pipe_.size = size;
  pipe_.at = 0;
}

wires::Engine* engine = nullptr;
const Port PORT = {
    nullptr,
    [](void*, uint8_t, uint8_t, bool, bool) {},
    [](void*, uint8_t link, const char* topic, const char* payload, bool retain) {
      wires::says(*engine, memory::device.now, link, topic, payload, retain);
    },
    [](void*, uint8_t link, const char* topic) { wires::subscribes(*engine, link, topic); },
    [](void*, uint8_t link) { wires::joins(*engine, memory::device.now, link); },
    [](void*) {},
    [](void*) {},
    [](void*, char) {},
    [](void*, bool) {},
    nullptr,
};
const wires::Ground GROUND = {nullptr, [](void*) { return true; }, [](void*, uint8_t, const char*) {}};

size_t messageOf(uint8_t* out, const char* topic, const char* payload) {
  const size_t length = std::strlen(topic);
  const size_t rest = 2 + length + std::strlen(payload);
  out[0] = 0x30;
  out[1] = static_cast<uint8_t>(rest);
  out[2] = 0;
  out[3] = static_cast<uint8_t>(length);
  std::memcpy(out + 4, topic, length);
  std::memcpy(out + 4 + length, payload, std::strlen(payload));
  return 2 + rest;
}

}  // namespace

int main(int, char** words) {
  const long rounds = std::atol(words[1]);
  static wires::Transports transports;
  static wires::Line lines[MOST_LINKS];
  static uint8_t in[512];
  static uint8_t out[4096];
  const wires::Buffers buffers[] = {{in, sizeof in, out, sizeof out}};
  Device& device = vestibule::memory::prepared(PORT);
  const wires::Far& far = wires::prepare(transports, GROUND, lines, 1, &SOCKET, buffers);
  engine = &wires::memory::prepared(far, device);
  wires::begin(transports, *engine);
  uint32_t now = 0;
  double longest = 0;
  const auto pass = [&]() {
    const double from = seconds();
    begin(device, now);
    wires::pass(transports, now);
    finish(device);
    wires::goOn(transports, now);
    const double took = seconds() - from;
    if (took > longest) longest = took;
  };
  begin(device, 0);
  power(device, true);
  finish(device);
  pass();
  const uint8_t connack[] = {0x20, 2, 0, 0};
  comes(connack, sizeof connack);
  pass();
  uint8_t message[256];
  // the messages of the first link-up wait for an acknowledgement each
  for (uint16_t id = 1; id < 60; id++) {
    const uint8_t ack[] = {0x40, 2, static_cast<uint8_t>(id >> 8), static_cast<uint8_t>(id)};
    comes(ack, sizeof ack);
    now++;
    pass();
  }
  comes(message, messageOf(message, "entry/count", "1"));
  pass();
  longest = 0;
  uint16_t id = 0;
  const double from = seconds();
  for (long i = 0; i < rounds; i++) {
    char wish[32];
    std::snprintf(wish, sizeof wish, "%ld %ld", i & 1, i + 2);
    now += 101;  // the plan's least time between two values
    comes(message, messageOf(message, "point/1/ask", wish));
    pass();
    id = lines[0].mqtt.waitsFor;
    const uint8_t ack[] = {0x40, 2, static_cast<uint8_t>(id >> 8), static_cast<uint8_t>(id)};
    comes(ack, sizeof ack);
    pass();
  }
  const double took = seconds() - from;
  std::printf("%.0f %.1f %lu %zu %zu %zu\n", static_cast<double>(rounds) * 2 / took, longest * 1e6, pipe_.taken,
              sizeof(mqtt::Client), sizeof(http::Client), sizeof(hook::Server));
  return 0;
}
