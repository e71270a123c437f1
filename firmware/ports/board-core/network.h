// What the controller asks of everything beyond the board: its links, and the hand that pairs it. The sketch that ships
// has it filled in (wifi.cpp); another network does the same six things.
#ifndef VESTIBULE_CORE_NETWORK_H
#define VESTIBULE_CORE_NETWORK_H

#include "vestibule.h"

namespace core {

/// None of these may wait. Links are counted as in image.h.
class Network {
 public:
  /// The runtime wants a link; the network tells `controllerLinkIs` how it stands.
  virtual void join(uint8_t link) = 0;
  virtual void publish(uint8_t link, const char* topic, const char* payload, bool retain) = 0;
  virtual void subscribe(uint8_t link, const char* topic) = 0;
  /// At each pass: what has come is told before the runtime's work, what waits goes out behind it.
  virtual void before(uint32_t nowMs) = 0;
  virtual void after(uint32_t nowMs) = 0;
  /// A hand asks for it at the controller: offer to be paired; forget the credentials and join no more until paired.
  virtual void pair() = 0;
  virtual void forget() = 0;
  /// What the status light shows beside the links: somebody has said no; it waits to be paired.
  virtual bool refused() { return false; }
  virtual bool waitsToBePaired() { return false; }

 protected:
  ~Network() {}
};

/// For a controller without a link.
class NoNetwork final : public Network {
 public:
  void join(uint8_t) override {}
  void publish(uint8_t, const char*, const char*, bool) override {}
  void subscribe(uint8_t, const char*) override {}
  void before(uint32_t) override {}
  void after(uint32_t) override {}
  void pair() override {}
  void forget() override {}
};

}  // namespace core

#endif
