#include "settings.h"

#if VESTIBULE_JOINS

#include VESTIBULE_CORE_HEADER
#include VESTIBULE_WIFI_HEADER
#include VESTIBULE_UDP_HEADER

#include "pairing.h"
#include "sntp.h"
#include "text.h"
#include "portWords.h"
#include "transports.h"
#include "wifi.h"
#include "wires_memory.h"

#ifndef VESTIBULE_TIME_SERVER
#define VESTIBULE_TIME_SERVER ""
#endif

namespace core {

namespace {

using namespace vestibule;
using namespace vestibule::wires;

constexpr uint8_t LINKS = wires_image::LINK_COUNT;
constexpr uint16_t IN_BYTES = 512;
/// What a controller says when a link comes up, all at once; what does not fit is said again later.
constexpr uint16_t OUT_BYTES = VESTIBULE_OUT_BYTES;
/// A network that was not joined by then is asked for anew.
constexpr uint32_t JOIN_MS = 30000;
constexpr uint32_t TIME_RETRY_MS = 60000;
constexpr uint32_t TIME_AGAIN_MS = 6ul * 3600 * 1000;
/// Where our datagrams come from (any that is free).
constexpr uint16_t UDP_PORT = 12300;

// ---- connections ----

/// One connection of the core's own class. With a task, connecting happens there, and nothing else touches the client
/// meanwhile.
struct CoreSocket {
  VESTIBULE_CLIENT plain;
#ifdef VESTIBULE_SECURE_CLIENT
  VESTIBULE_SECURE_CLIENT secure;
#endif
  const char* address = nullptr;
  uint16_t port = 0;
  bool tls = false;
  volatile bool connecting = false;
  volatile bool unwanted = false;  ///< closed while it was connecting

  template <typename Work>
  auto with(Work work) -> decltype(work(plain)) {
#ifdef VESTIBULE_SECURE_CLIENT
    if (tls) return work(secure);
#endif
    return work(plain);
  }
};

bool connectNow(CoreSocket& socket) {
#ifdef VESTIBULE_SECURE_CLIENT
  if (socket.tls) {
    VESTIBULE_SECURE_BEGIN(socket.secure);
    return socket.secure.connect(socket.address, socket.port) != 0;
  }
#endif
  socket.plain.setTimeout(VESTIBULE_CONNECT_MS);
  return socket.plain.connect(socket.address, socket.port) != 0;
}

#ifdef VESTIBULE_TASK
void connectsAside(void* what) {
  CoreSocket& socket = *static_cast<CoreSocket*>(what);
  connectNow(socket);
  if (socket.unwanted) socket.plain.stop();
  socket.connecting = false;
  VESTIBULE_TASK_ENDS();
}
#endif

struct Stop {
  template <typename C>
  bool operator()(C& client) const {
    client.stop();
    return true;
  }
};
struct Connected {
  template <typename C>
  bool operator()(C& client) const {
    // what has come before the end can still be read
    return client.connected() != 0 || client.available() > 0;
  }
};

struct Read {
  uint8_t* buffer;
  size_t size;
  template <typename C>
  size_t operator()(C& client) const {
    const int there = client.available();
    if (there <= 0) return 0;
    const int read = client.read(buffer, static_cast<size_t>(there) < size ? static_cast<size_t>(there) : size);
    return read > 0 ? static_cast<size_t>(read) : 0;
  }
};
struct Write {
  const uint8_t* bytes;
  size_t size;
  template <typename C>
  size_t operator()(C& client) const {
    return client.write(bytes, size);
  }
};

bool openSocket(void* context, const char* address, uint16_t port, bool tls) {
  CoreSocket& socket = *static_cast<CoreSocket*>(context);
#ifndef VESTIBULE_SECURE_CLIENT
  if (tls) return false;
#endif
  // one that still connects must end by itself first
  if (socket.connecting) return false;
  socket.with(Stop());
  socket.address = address;
  socket.port = port;
  socket.tls = tls;
  socket.unwanted = false;
#ifdef VESTIBULE_TASK
  socket.connecting = true;
  VESTIBULE_TASK(connectsAside, &socket);
  return true;
#else
  return connectNow(socket);
#endif
}

Connection stateOf(void* context) {
  CoreSocket& socket = *static_cast<CoreSocket*>(context);
  if (socket.connecting) return Connection::opening;
  return socket.with(Connected()) ? Connection::open : Connection::closed;
}

size_t readSocket(void* context, uint8_t* buffer, size_t size) {
  CoreSocket& socket = *static_cast<CoreSocket*>(context);
  if (socket.connecting) return 0;
  return socket.with(Read{buffer, size});
}

size_t writeSocket(void* context, const uint8_t* bytes, size_t size) {
  CoreSocket& socket = *static_cast<CoreSocket*>(context);
  if (socket.connecting || size == 0) return 0;
  return socket.with(Write{bytes, size});
}

void closeSocket(void* context) {
  CoreSocket& socket = *static_cast<CoreSocket*>(context);
  socket.unwanted = true;
  if (!socket.connecting) socket.with(Stop());
}

Socket socketOf(CoreSocket& socket) { return {&socket, openSocket, stateOf, readSocket, writeSocket, closeSocket}; }

constexpr bool IS_PAIRED = sizeof wires_image::PAIRING_PIN > 1;
// over an open network the password of the house would go in clear
static_assert(!IS_PAIRED || sizeof wires_image::PAIRING_PIN > 8,
              "the pairing PIN needs 8 or more characters: see secrets.h");

struct CoreListener {
  VESTIBULE_LISTENER* server = nullptr;
  CoreSocket* caller = nullptr;
};

Listener listenerOf(CoreListener& listener) {
  return {&listener,
          [](void* context, uint16_t port) {
            CoreListener& own = *static_cast<CoreListener*>(context);
            if (own.server != nullptr) return true;
            own.server = new VESTIBULE_LISTENER(port);
            own.server->begin();
            return true;
          },
          [](void* context) {
            CoreListener& own = *static_cast<CoreListener*>(context);
            own.caller->plain = own.server->available();
            return own.caller->plain.connected() != 0;
          }};
}

#if VESTIBULE_USES_HOOK
CoreSocket callers[LINKS];
CoreListener listeners[LINKS];
#endif
CoreSocket phone;
CoreListener shortRange;

// ---- the time of day ----

/// Asks a time server now and then, where there are schedules.
class Time {
 public:
  void pass(uint32_t now, bool joined) {
    if (!controllerWantsTime() || VESTIBULE_TIME_SERVER[0] == '\0' || !joined) return;
    if (!begun) {
      begun = true;
      udp.begin(UDP_PORT);
      nextAt = now;
    }
    hears();
    if (static_cast<int32_t>(now - nextAt) < 0) return;
    nextAt = now + TIME_RETRY_MS;
    mark = mark * 1664525u + 1013904223u + now;
    uint8_t packet[sntp::PACKET];
    sntp::request(packet, mark);
    if (udp.beginPacket(VESTIBULE_TIME_SERVER, VESTIBULE_TIME_PORT) == 0) return;
    udp.write(packet, sizeof packet);
    udp.endPacket();
  }

 private:
  void hears() {
    uint8_t packet[sntp::PACKET];
    uint32_t seconds = 0;
    if (udp.parsePacket() < static_cast<int>(sizeof packet)) return;
    const int size = udp.read(packet, sizeof packet);
    if (size <= 0 || !sntp::readAnswer(packet, static_cast<size_t>(size), mark, seconds)) return;
    nextAt = static_cast<uint32_t>(millis()) + TIME_AGAIN_MS;
    controllerKnowsTime(sntp::weekMs(seconds, VESTIBULE_UTC_OFFSET_MINUTES, sntp::Summer::VESTIBULE_SUMMER_TIME));
  }

  VESTIBULE_UDP udp;
  bool begun = false;
  uint32_t nextAt = 0;
  uint32_t mark = 1;
};

// ---- the network ----

CoreSocket sockets[LINKS];
Line lines[LINKS];
uint8_t in[LINKS][IN_BYTES];
uint8_t out[LINKS][OUT_BYTES];

class Wifi final : public Network {
 public:
  void join(uint8_t link) override { joins(ready(), static_cast<uint32_t>(millis()), link); }
  void publish(uint8_t link, const char* topic, const char* payload, bool retain) override {
    const uint32_t now = static_cast<uint32_t>(millis());
    says(ready(), now, link, topic, payload, retain);
    if (!vestibule::wires::namesTables(payload)) return;
    char words[vestibule::wires::PORT_WORDS];
    vestibule::wires::portWords(words, static_cast<int16_t>(VESTIBULE_WIFI_SIGNAL()), now);
    says(ready(), now, link, topic, words, false);
  }
  void subscribe(uint8_t link, const char* topic) override { subscribes(ready(), link, topic); }
  void before(uint32_t now) override {
    ready();
    const bool isJoined = VESTIBULE_WIFI_JOINED();
    if (!isJoined && knowsNetwork() && (!asked || now - askedAt > JOIN_MS)) {
      asked = true;
      askedAt = now;
      if (settings.isPaired) {
        VESTIBULE_WIFI_BEGIN(settings.network, settings.secret);
      } else {
        VESTIBULE_WIFI_BEGIN(VESTIBULE_WIFI_NAME, VESTIBULE_WIFI_PASSWORD);
      }
    }
    pass(transports, now);
    passPairing(now);
    time.pass(now, isJoined);
  }
  void after(uint32_t now) override { goOn(transports, now); }
  void pair() override { pairs = true; }
  // nothing of the program counts any more either, until somebody pairs it
  void forget() override { forgets = true; }
  bool waitsToBePaired() override { return pairing.isOffered; }
  bool refused() override {
    for (const Line& line : lines) {
      if (line.isRefused) return true;
    }
    return false;
  }

 private:
  Engine& ready() {
    if (engine != nullptr) return *engine;
    Socket all[LINKS];
    Buffers buffers[LINKS];
    for (uint8_t i = 0; i < LINKS; i++) {
      all[i] = socketOf(sockets[i]);
      buffers[i] = {in[i], IN_BYTES, out[i], OUT_BYTES};
    }
    const Far& far = prepare(transports, ground, lines, LINKS, all, buffers);
    engine = &wires::memory::prepared(far, controllerDevice());
#if VESTIBULE_USES_HOOK
    for (uint8_t i = 0; i < LINKS; i++) {
      listeners[i].caller = &callers[i];
      listens(transports, i, listenerOf(listeners[i]), socketOf(callers[i]));
    }
#endif
    wires::begin(transports, *engine);
    readySettings();
    return *engine;
  }

  // ---- paired or not ----

  bool knowsNetwork() const { return !settings.isForgotten && (settings.isPaired || VESTIBULE_WIFI_NAME[0] != '\0'); }
  size_t storedAt() const { return networkStoreAt(); }

  void readySettings() {
    static Words links[LINKS];
    for (uint8_t i = 0; i < LINKS; i++) links[i] = wires_image::LINKS[i].id;
    identity = {wires_image::PREFIX, controllerHash(), wires_image::PAIRING_PIN, links, LINKS};
    shortRange.caller = &phone;
    vestibule::pairing::prepare(pairing, identity, listenerOf(shortRange), socketOf(phone), VESTIBULE_PAIRING_PORT,
                                settings);
    if (vestibule::pairing::load(settings, controllerMemory(), storedAt())) goesWhereItIsTold();
    // what knows no network offers itself from its first power on
    pairs = IS_PAIRED && !knowsNetwork();
  }

  void goesWhereItIsTold() {
    for (uint8_t i = 0; i < LINKS; i++) {
      const vestibule::pairing::LinkSettings& link = settings.links[i];
      goesTo(transports, i, {link.address, link.port, link.user, link.password});
    }
  }

  void keep() {
    vestibule::pairing::save(settings, controllerMemory(), storedAt());
    controllerCommits();
    endAll(transports);
    asked = false;
  }

  // "site/controller", as far as a network's name goes
  void opensOwnNetwork() {
    static char name[vestibule::pairing::NAME_SIZE];
    Text text = {name, sizeof name};
    Words at = wires_image::TABLES.prefix + sizeof "vestibule/" - 1;
    for (; charAt(at + 1) != '\0'; at++) append(text, charAt(at));
    VESTIBULE_ACCESS_POINT(name, wires_image::PAIRING_PIN);
  }

  void passPairing(uint32_t now) {
    const bool was = pairing.isOffered;
    if (forgets) {
      settings = vestibule::pairing::Settings();
      settings.isForgotten = true;
      endAll(transports);
      // what cannot be paired again forgets until it is started anew
      if (IS_PAIRED) keep();
    }
    if (pairs && vestibule::pairing::offer(pairing, now) && !was) opensOwnNetwork();
    forgets = pairs = false;
    vestibule::pairing::pass(pairing, now);
    if (vestibule::pairing::takesNews(pairing)) {
      goesWhereItIsTold();
      keep();
    }
    if (was && !pairing.isOffered) VESTIBULE_ACCESS_POINT_ENDS();
  }

  Transports transports;
  Engine* engine = nullptr;
  Time time;
  bool asked = false;
  uint32_t askedAt = 0;
  vestibule::pairing::Identity identity = {};
  vestibule::pairing::Settings settings = {};
  vestibule::pairing::Pairing pairing = {};
  bool pairs = false;    ///< a hand has asked for it
  bool forgets = false;  ///< … or for that
  const Ground ground = {
      this, [](void* context) { return static_cast<Wifi*>(context)->knowsNetwork() && VESTIBULE_WIFI_JOINED(); },
      [](void*, uint8_t link, const char* text) {
#if VESTIBULE_SERIAL_LOG
        for (Words c = wires_image::LINKS[link].id; charAt(c) != '\0'; c++)
          Serial.write(static_cast<uint8_t>(charAt(c)));
        Serial.write(static_cast<uint8_t>(' '));
        for (; *text != '\0'; text++) Serial.write(static_cast<uint8_t>(*text));
        Serial.write(static_cast<uint8_t>('\n'));
#else
        (void)link;
        (void)text;
#endif
      }};
};

}  // namespace

Network& wifi() {
  static Wifi network;
  return network;
}

}  // namespace core

#endif
