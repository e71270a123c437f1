// Each link's transport, by what its table says: a client of MQTT, of requests, or a server of calls, over sockets that
// the port gives. Ties them to the wire engine. For programs whose tables lie in memory; all buffers are the caller's.
#ifndef VESTIBULE_TRANSPORTS_H
#define VESTIBULE_TRANSPORTS_H

#include "mqtt.h"
#include "request.h"
#include "wires.h"

namespace vestibule {
namespace wires {

struct Transports;

/// One link's transport. What a link does not use stands idle.
struct Line {
  Transports* all;
  uint8_t link;
  Socket socket;
  mqtt::Client mqtt;
  mqtt::Login login;
  mqtt::Hearing hearing;
  http::Client http;
  http::Answer answer;
  hook::Server hook;
  hook::Call call;
  Socket caller;
  Listener listener;
  const char* address;
  uint16_t port;
  char statusTopic[80];  ///< of a link to the house
  bool wanted;           ///< the engine has asked to connect
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
  void (*note)(void* context, uint8_t link, const char* text);
};

struct Transports {
  Engine* engine;
  const Ground* ground;
  Line* lines;
  Far far;
  uint32_t now;
};

/// Buffers of a link: what comes in, and what waits to go out.
struct Buffers {
  uint8_t* in;
  uint16_t inSize;
  uint8_t* out;
  uint16_t outSize;
};

/// Prepares the lines and gives the engine's far side; call before the engine is prepared. `sockets` and `buffers` are
/// one for each link.
const Far& prepare(Transports& transports, const Ground& ground, Line* lines, uint8_t count, const Socket* sockets,
                   const Buffers* buffers);
/// A link that is called needs a place to listen and a second socket for its callers.
void listens(Transports& transports, uint8_t link, const Listener& listener, const Socket& caller);
/// The engine is there: its tables say what each line is.
void begin(Transports& transports, Engine& engine);
/// Reads what has come, tells the engine, and does what is due: between the runtime's begin and finish, at each pass.
void pass(Transports& transports, uint32_t nowMs);
/// Begins what waits, and writes what the runtime has just said: behind its finish.
void goOn(Transports& transports, uint32_t nowMs);

}  // namespace wires
}  // namespace vestibule

#endif
