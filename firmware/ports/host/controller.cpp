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

const char* clientId() { return image::CLIENT_ID; }

}  // namespace host
