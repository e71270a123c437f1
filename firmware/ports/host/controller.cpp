// The only file that sees image.h and wires_image.h: everything else of the host port is compiled once for all
// controllers.
#include "controller.h"

#include "memory.h"
#include "wires_memory.h"

namespace host {

vestibule::Device& controller(const vestibule::Port& port) { return vestibule::memory::prepared(port); }

vestibule::wires::Engine& wires(const vestibule::wires::Far& far, vestibule::Device& device) {
  return vestibule::wires::memory::prepared(far, device);
}

const vestibule::pairing::Identity& identity() {
  static vestibule::Words links[wires_image::LINK_COUNT];
  for (uint8_t i = 0; i < wires_image::LINK_COUNT; i++) links[i] = wires_image::LINKS[i].id;
  static const vestibule::pairing::Identity own = {wires_image::PREFIX, image::IMAGE.hash, wires_image::PAIRING_PIN,
                                                   links, wires_image::LINK_COUNT};
  return own;
}

const char* clientId() { return image::CLIENT_ID; }

}  // namespace host
