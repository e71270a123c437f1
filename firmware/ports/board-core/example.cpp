// The sketch of a controller. There is nothing to fill in here: what the board's core is called stands in settings.h,
// what opens network and services in secrets.h.
#include "settings.h"

#include VESTIBULE_CORE_HEADER

#include "controller.h"
#include "wifi.h"

#if VESTIBULE_JOINS
static core::Network& network() { return core::wifi(); }
#else
static core::Network& network() {
  static core::NoNetwork none;
  return none;
}
#endif

void setup() { core::controllerSetup(network(), core::boardStore()); }
void loop() { core::controllerLoop(); }
