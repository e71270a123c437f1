// The memory of the controller that image.h describes, of the right size, tied to its tables. For the one file of a port that sees
// image.h: including it in a second one would make a second controller.
#ifndef VESTIBULE_MEMORY_H
#define VESTIBULE_MEMORY_H

#include "image.h"

namespace vestibule {
namespace memory {

constexpr size_t atLeastOne(size_t n) { return n == 0 ? 1 : n; }

static Timer timers[timerCount(image::INPUT_COUNT, image::CHANNEL_COUNT, image::SENSOR_COUNT, image::RULE_COUNT)];
static InputState inputs[atLeastOne(image::INPUT_COUNT)];
static ChannelState channels[atLeastOne(image::CHANNEL_COUNT)];
static SensorState sensors[atLeastOne(image::SENSOR_COUNT)];
static Wish wishes[atLeastOne(image::RULE_COUNT)];
static bool heldBack[atLeastOne(image::POINT_COUNT)];
static Device device;

/// Ties tables, memory and port together, and prepares the controller.
static inline Device& prepared(const Port& port) {
  device.image = &image::IMAGE;
  device.port = &port;
  device.timers = timers;
  device.inputs = inputs;
  device.channels = channels;
  device.sensors = sensors;
  device.wishes = wishes;
  device.heldBack = heldBack;
  prepare(device);
  return device;
}

}  // namespace memory
}  // namespace vestibule

#endif
