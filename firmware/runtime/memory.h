// The memory of the controller that image.h describes, of the right size, tied to its tables. For the one file of a
// port that sees image.h: including it in a second one would make a second controller.
#ifndef VESTIBULE_MEMORY_H
#define VESTIBULE_MEMORY_H

#include "image.h"

namespace vestibule {
namespace memory {

constexpr size_t atLeastOne(size_t n) { return n == 0 ? 1 : n; }

#ifdef VESTIBULE_ONE_CONTROLLER
#define VESTIBULE_OWN
constexpr Image TABLES = image::IMAGE;
#else
#define VESTIBULE_OWN static
#endif

#ifdef VESTIBULE_NO_LINK
constexpr size_t LINKS = 0;
#else
constexpr size_t LINKS = image::LINK_COUNT;
#endif
constexpr size_t TIMERS =
    timerCount(image::INPUT_COUNT, image::CHANNEL_COUNT, image::SENSOR_COUNT, image::RULE_COUNT, LINKS);
static_assert(TIMERS < NOT_ARMED, "more deadlines than this board can count: fewer channels, inputs or sensors");
VESTIBULE_OWN Timer timers[TIMERS];
VESTIBULE_OWN InputState inputs[atLeastOne(image::INPUT_COUNT)];
VESTIBULE_OWN ChannelState channels[atLeastOne(image::CHANNEL_COUNT)];
VESTIBULE_OWN SensorState sensors[atLeastOne(image::SENSOR_COUNT)];
VESTIBULE_OWN Wish wishes[atLeastOne(image::RULE_COUNT)];
VESTIBULE_OWN uint8_t said[atLeastOne(image::CHANNEL_COUNT)];
VESTIBULE_OWN bool heldBack[atLeastOne(image::POINT_COUNT)];
#ifndef VESTIBULE_NO_LINK
VESTIBULE_OWN LinkRecord links[LINKS];
#endif
VESTIBULE_OWN Device device;

#ifdef VESTIBULE_ONE_CONTROLLER
/// Prepares the controller; tables, memory and port are where they are.
static inline Device& prepared() {
  prepare(device);
  return device;
}
#else
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
#ifndef VESTIBULE_NO_LINK
  device.links = links;
#endif
  device.said = said;
  prepare(device);
  return device;
}
#endif

}  // namespace memory
}  // namespace vestibule

#endif
