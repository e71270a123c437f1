// Each link's transport, by what its table says: a client of MQTT, of requests, or a server of calls, over sockets that
// the port gives. Ties them to the wire engine. All buffers are the caller's.
#ifndef VESTIBULE_TRANSPORTS_H
#define VESTIBULE_TRANSPORTS_H

#include "mqtt.h"
#include "wires.h"

#ifndef VESTIBULE_ONLY_MQTT
#include "request.h"
#endif

namespace vestibule {
namespace wires {

struct Transports;

#ifdef VESTIBULE_ONE_CONTROLLER
struct Ground;
struct Line;
namespace memory {
extern Engine engine;
extern Transports transports;
extern const Ground GROUND;  ///< the port defines it, and the lines
extern Line lines[];
}  // namespace memory
#endif

/// One link's transport. What a link does not use stands idle.
struct Line {
  VESTIBULE_POINTER(Transports, &memory::transports) all;
  uint8_t link;
  mqtt::Client mqtt;
  mqtt::Login login;
#ifndef VESTIBULE_ONE_CONTROLLER
  Socket socket;
  mqtt::Hearing hearing;
#endif
#ifndef VESTIBULE_ONLY_MQTT
  http::Client http;
  http::Answer answer;
  hook::Server hook;
  hook::Call call;
  Socket caller;
  Listener listener;
#endif
  Words address;
  uint16_t port;
  bool wanted;  ///< the engine has asked to connect
  uint32_t wantedAt;
  uint32_t saidAgainAt;
  bool isUp;       ///< as the engine was told
  bool isRefused;  ///< the other end has said no, and nothing else since
};

/// What the port does for the transports.
struct Ground {
  void* context;
  /// Is the network joined?
  bool (*joined)(void* context);
  /// A line for the log, in plain words.
  void (*note)(void* context, uint8_t link, Words text);
};

struct Transports {
  VESTIBULE_POINTER(Engine, &memory::engine) engine;
  VESTIBULE_POINTER(const Ground, &memory::GROUND) ground;
  VESTIBULE_POINTER(Line, memory::lines) lines;
#ifndef VESTIBULE_ONE_CONTROLLER
  Far far;
#endif
  uint32_t now;
};

/// Buffers of a link: what comes in, and what waits to go out.
struct Buffers {
  uint8_t* in;
  uint16_t inSize;
  uint8_t* out;
  uint16_t outSize;
};

#ifdef VESTIBULE_ONE_CONTROLLER
void prepare(Transports& transports, uint8_t count, const Buffers* buffers);
#else
/// Prepares the lines and gives the engine's far side; call before the engine is prepared. `sockets` and `buffers` are
/// one for each link.
const Far& prepare(Transports& transports, const Ground& ground, Line* lines, uint8_t count, const Socket* sockets,
                   const Buffers* buffers);
#endif
#ifndef VESTIBULE_ONLY_MQTT
/// A link that is called needs a place to listen and a second socket for its callers.
void listens(Transports& transports, uint8_t link, const Listener& listener, const Socket& caller);
#endif
/// The engine is there: its tables say what each line is.
void begin(Transports& transports, Engine& engine);
/// From the next connection on: another place and login than the tables'; what is empty stays as it is.
struct Place {
  const char* address;
  uint16_t port;
  const char* user;
  const char* password;  ///< or the key of calls
};
void goesTo(Transports& transports, uint8_t link, const Place& place);
/// Every connection ends, and is made anew when the runtime asks.
void endAll(Transports& transports);
/// Reads what has come, tells the engine, and does what is due: between the runtime's begin and finish, at each pass.
void pass(Transports& transports, uint32_t nowMs);
/// Begins what waits, and writes what the runtime has just said: behind its finish.
void goOn(Transports& transports, uint32_t nowMs);

}  // namespace wires
}  // namespace vestibule

#endif
