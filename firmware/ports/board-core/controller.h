// The controller for board cores of the setup()/loop() style. A sketch calls the first two; see example.cpp.
#ifndef VESTIBULE_CORE_CONTROLLER_H
#define VESTIBULE_CORE_CONTROLLER_H

#include "network.h"

namespace core {

/// The board's store, byte by byte; `commit` after a record (boards that write a page at a time need it; else leave it
/// empty).
struct Store {
  uint8_t (*read)(size_t at);
  void (*write)(size_t at, uint8_t value);
  void (*commit)();
};

/// Pins of expanders and shift registers, counted from 0 in the order of the controller's parts; your sketch defines
/// EXPANDER when settings.h says that there is one. `makeOutput` writes the level first: an output never drives
/// anything else. None may wait long: all inputs are read in each pass.
struct Expander {
  void (*makeOutput)(uint8_t pin, bool level);
  void (*makeInput)(uint8_t pin, bool pullUp);
  void (*write)(uint8_t pin, bool level);
  bool (*read)(uint8_t pin);
};
extern const Expander EXPANDER;

/// The board's own store, by the names of settings.h.
Store boardStore();
void controllerSetup(Network& network, const Store& store);
/// Must be called again and again, at least each millisecond or two; it never waits.
void controllerLoop();
/// From within Network::before: a link is up, or gone or could not be had; a message came over it.
void controllerLinkIs(uint8_t link, bool up);
void controllerHears(uint8_t link, const char* topic, const uint8_t* payload, size_t length, bool retained);
/// A reading of a sensor, thousandths; the number is its place in image.h.
void controllerReads(uint8_t sensor, int32_t thousandths);
/// Local time, ms since Monday 00:00; schedules need it.
void controllerKnowsTime(uint32_t weekMs);
/// The controller itself, for a network that speaks to it directly.
vestibule::Device& controllerDevice();
/// Schedules, of which a clock would be news.
bool controllerWantsTime();
/// The board's store, which the network keeps its credentials in, and where those begin.
const vestibule::Memory& controllerMemory();
size_t networkStoreAt();
void controllerCommits();
/// Hash of the tables.
vestibule::Words controllerHash();

}  // namespace core

#endif
