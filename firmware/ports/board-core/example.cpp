// A sketch around the controller: copy it, and put your board's network, message client and store in place of the three
// below. What they need stands in secrets.h: VESTIBULE_WIFI_NAME, VESTIBULE_WIFI_PASSWORD, VESTIBULE_BROKER_ADDRESS,
// VESTIBULE_BROKER_PORT.
#include "settings.h"

#include VESTIBULE_CORE_HEADER

#include "controller.h"

namespace {

#if VESTIBULE_JOINS
#include "secrets.h"

/// Joins the network that secrets.h names. Neither function may wait.
struct YourNetwork {
  void begin() {}
  bool joined() { return false; }
  void pair() {}
  void forget() {}
};

/// A message client, as network.h describes it. Call core::controllerHears from its callback.
struct YourClient {
  bool connect(const char*, const char*, const char*, const char*, const char*, bool) { return false; }
  bool connected() { return false; }
  bool publish(const char*, const char*, bool) { return false; }
  bool subscribe(const char*) { return false; }
  void loop() {}
};

YourNetwork network;
YourClient client;
core::Link<YourNetwork, YourClient> link(network, client, core::controllerId(), VESTIBULE_BROKER_USER,
                                         VESTIBULE_BROKER_PASSWORD,
                                         core::Will{core::controllerStatusTopic(), "offline"});
#else
core::NoLink link;
#endif
const core::Store STORE = {[](size_t) -> uint8_t { return 0xff; }, [](size_t, uint8_t) {}, []() {}};

}  // namespace

void setup() { core::controllerSetup(link, STORE); }
void loop() { core::controllerLoop(); }
