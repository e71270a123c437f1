// The only file that sees image.h: everything else of the host port is compiled once for all controllers.
#include "controller.h"

#include "image.h"

namespace host {

namespace {

constexpr size_t atLeastOne(size_t n) { return n == 0 ? 1 : n; }

vestibule::Timer timers[vestibule::timerCount(image::INPUT_COUNT, image::CHANNEL_COUNT, image::SENSOR_COUNT, image::RULE_COUNT)];
vestibule::InputState inputs[atLeastOne(image::INPUT_COUNT)];
vestibule::ChannelState channels[atLeastOne(image::CHANNEL_COUNT)];
vestibule::SensorState sensors[atLeastOne(image::SENSOR_COUNT)];
vestibule::Wish wishes[atLeastOne(image::RULE_COUNT)];
bool heldBack[atLeastOne(image::POINT_COUNT)];
vestibule::Device device;

}  // namespace

vestibule::Device& controller(const vestibule::Port& port) {
  device.image = &image::IMAGE;
  device.port = &port;
  device.timers = timers;
  device.inputs = inputs;
  device.channels = channels;
  device.sensors = sensors;
  device.wishes = wishes;
  device.heldBack = heldBack;
  vestibule::prepare(device);
  return device;
}

const char* clientId() { return image::CLIENT_ID; }

}  // namespace host
