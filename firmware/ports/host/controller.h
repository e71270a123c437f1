// The controller that this program is built for.
#ifndef VESTIBULE_HOST_CONTROLLER_H
#define VESTIBULE_HOST_CONTROLLER_H

#include "pairing.h"
#include "vestibule.h"
#include "wires.h"

namespace host {

/// The image's tables with memory of the right size, tied to a port and prepared.
vestibule::Device& controller(const vestibule::Port& port);
/// The wires of its links, prepared.
vestibule::wires::Engine& wires(const vestibule::wires::Far& far, vestibule::Device& device);
/// What it says of itself to whoever pairs it.
const vestibule::pairing::Identity& identity();
/// "<site>.<controller>", the client id: ids hold no dot, so no two can meet.
const char* clientId();

}  // namespace host

#endif
