// What the controller asks of the network and of the message client: fill in the four functions of `Network` for your
// board, and hand over any client that has the methods named at `Link`. A controller without a link needs neither.
#ifndef VESTIBULE_CORE_NETWORK_H
#define VESTIBULE_CORE_NETWORK_H

#include "vestibule.h"

namespace core {

/// The last will is retained "offline" on the controller's status topic (MQTT 3.1.1, 3.1.2.5).
struct Will {
  const char* topic;
  const char* payload;
};

/// What a link is to the controller. It must never wait: `begin` starts joining, `state` says how it stands.
class LinkBase {
 public:
  enum class State : uint8_t { down, joining, up };
  virtual void begin() = 0;
  virtual State state() = 0;
  virtual void publish(const char* topic, const char* payload, bool retain) = 0;
  virtual void subscribe(const char* topic) = 0;
  virtual void loop() = 0;
  /// A hand asks for it at the controller: offer to be paired; forget the credentials and join no more until paired.
  virtual void pair() = 0;
  virtual void forget() = 0;
  /// What the status light shows beside that: the broker has said no; it waits to be paired.
  virtual bool refused() { return false; }
  virtual bool waitsToBePaired() { return false; }

 protected:
  ~LinkBase() {}
};

/**
 * A link over any message client with these methods, which publish at QoS 0 (most have them; else write a small class
 * around yours): bool connect(const char* id, const char* user, const char* password, const char* willTopic, const
 * char* will, bool willRetained) bool connected()   bool publish(const char* topic, const char* payload, bool retained)
 * bool subscribe(const char* topic)   void loop() and a network with void begin()       starts joining, with the
 * credentials of secrets.h bool joined() void pair()        offers to be given credentials, as your board does it void
 * forget() forgets them
 */
template <typename Network, typename Client>
class Link final : public LinkBase {
 public:
  Link(Network& network, Client& client, const char* id, const char* user, const char* password, Will will)
      : network(network), client(client), id(id), user(user), password(password), will(will) {}

  void begin() override {
    network.begin();
    asked = true;
  }
  State state() override {
    if (client.connected()) return State::up;
    return asked ? State::joining : State::down;
  }
  void publish(const char* topic, const char* payload, bool retain) override { client.publish(topic, payload, retain); }
  void subscribe(const char* topic) override { client.subscribe(topic); }
  /// Connects once for each `begin`, as soon as the network has been joined; the runtime asks again when it is time.
  void loop() override {
    if (asked && network.joined() && !client.connected()) {
      asked = false;
      saidNo = !client.connect(id, user, password, will.topic, will.payload, true);
      if (!saidNo) offered = false;
    }
    client.loop();
  }
  void pair() override {
    offered = true;
    network.pair();
  }
  void forget() override {
    offered = false;
    network.forget();
  }
  bool refused() override { return saidNo && !client.connected(); }
  bool waitsToBePaired() override { return offered; }

 private:
  Network& network;
  Client& client;
  const char* id;
  const char* user;
  const char* password;
  Will will;
  bool asked = false;
  bool saidNo = false;
  bool offered = false;
};

/// For a controller without a link.
class NoLink final : public LinkBase {
 public:
  void begin() override {}
  State state() override { return State::down; }
  void publish(const char*, const char*, bool) override {}
  void subscribe(const char*) override {}
  void loop() override {}
  void pair() override {}
  void forget() override {}
};

}  // namespace core

#endif
