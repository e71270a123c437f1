// The only file that sees image.h: everything else of the host port is compiled once for all controllers.
#include "controller.h"

#include "memory.h"

namespace host {

vestibule::Device& controller(const vestibule::Port& port) { return vestibule::memory::prepared(port); }

const char* clientId() { return image::CLIENT_ID; }

}  // namespace host
