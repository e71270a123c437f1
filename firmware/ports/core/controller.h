// The controller for board cores of the setup()/loop() style. Your sketch calls these two, and `controllerHears` from its message
// client's callback. See example.cpp.
#ifndef VESTIBULE_CORE_CONTROLLER_H
#define VESTIBULE_CORE_CONTROLLER_H

#include "network.h"

namespace core {

/// The board's store, byte by byte; `commit` after a record (boards that write a page at a time need it; else leave it empty).
struct Store {
  uint8_t (*read)(size_t at);
  void (*write)(size_t at, uint8_t value);
  void (*commit)();
};

void controllerSetup(LinkBase& link, const Store& store);
/// Must be called again and again, at least each millisecond or two; it never waits.
void controllerLoop();
/// A message from the broker.
void controllerHears(const char* topic, const uint8_t* payload, size_t length, bool retained);
/// A reading of a sensor, thousandths; the number is its place in image.h.
void controllerReads(uint8_t sensor, int32_t thousandths);
/// Local time, ms since Monday 00:00; schedules need it.
void controllerKnowsTime(uint32_t weekMs);
/// "<site>.<controller>", and the topic of the last will.
const char* controllerId();
const char* controllerStatusTopic();

}  // namespace core

#endif
