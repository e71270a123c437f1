// The network of the usual kind of Wi-Fi core, filled in: it joins with what secrets.h says, and reaches each service
// by its wire.
#ifndef VESTIBULE_CORE_WIFI_H
#define VESTIBULE_CORE_WIFI_H

#include "controller.h"

namespace core {

/// The one network of this board.
Network& wifi();

}  // namespace core

#endif
