// The memory of the wires that wires_image.h describes, of the right size. For the one file of a port that sees the
// image.
#ifndef VESTIBULE_WIRES_MEMORY_H
#define VESTIBULE_WIRES_MEMORY_H

#include "wires_image.h"

namespace vestibule {
namespace wires {
namespace memory {

#ifdef VESTIBULE_ONE_CONTROLLER
constexpr Tables TABLES = wires_image::TABLES;
LinkState links[wires_image::LINK_COUNT];
constexpr size_t TOPIC_SIZE = wires_image::LONGEST_TOPIC;
constexpr size_t PAYLOAD_SIZE = wires_image::LONGEST_PAYLOAD;
char topic[TOPIC_SIZE];
char payload[PAYLOAD_SIZE];
Engine engine;
#else
static LinkState links[wires_image::LINK_COUNT];
static Value known[wires_image::KNOWN_COUNT == 0 ? 1 : wires_image::KNOWN_COUNT];
static Engine engine;
#endif
static SayState rows[wires_image::SAY_COUNT == 0 ? 1 : wires_image::SAY_COUNT];

#ifdef VESTIBULE_ONE_CONTROLLER
static inline Engine& prepared() {
  prepare(engine, rows);
  return engine;
}
#else
/// Ties tables, memory and transports to a controller.
static inline Engine& prepared(const Far& far, Device& device) {
  prepare(engine, wires_image::TABLES, far, device, links, rows, known);
  return engine;
}
#endif

}  // namespace memory
}  // namespace wires
}  // namespace vestibule

#endif
