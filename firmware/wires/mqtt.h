// A client of MQTT 3.1.1 (OASIS Standard, 29 October 2014) for boards: no heap, no waiting, buffers of the caller's. It
// publishes at QoS 0 and 1 (one on its way at a time), subscribes, pings, and leaves a will. A session begins clean and
// ends with its connection: what matters is told anew when the link comes up.
//
// Clauses are cited where they are kept; those that only a server must keep, and those of QoS 2, are not ours.
#ifndef VESTIBULE_MQTT_H
#define VESTIBULE_MQTT_H

#include "socket.h"
#include "vestibule.h"

namespace vestibule {
namespace mqtt {

struct Login {
  Words client;
  Words user;  ///< empty: none
  Words password;
  Words willPrefix;  ///< of the topic
  Words willTopic;   ///< empty: no will
  Words will;
  bool willRetain;
  uint16_t keepAliveS;
};

enum class State : uint8_t { down, connecting, greeting, up };

/// Why a connection could not be had, or ended.
enum class End : uint8_t {
  none,
  unreachable,   ///< nobody answers at the address
  silent,        ///< connected, and then no word for too long
  gone,          ///< the other end has closed
  broken,        ///< what came is not of the protocol
  wrongVersion,  ///< 3.2.2.3, return code 1
  wrongClient,   ///< 2
  unavailable,   ///< 3
  wrongLogin,    ///< 4
  notAllowed,    ///< 5
  refused        ///< a subscription was refused, or any other code
};

struct Client;

struct Hearing {
  void* context;
  /// The topic ends with a nought; both live only during the call. `again`: sent before (DUP).
  void (*message)(void* context, const char* topic, const char* payload, size_t length, bool retain, bool again);
};

#ifdef VESTIBULE_ONE_CONTROLLER
namespace memory {
extern const wires::Socket SOCKET;  ///< the port defines it
extern const Hearing HEARING;       ///< the transports do
}  // namespace memory
#endif

/// Memory beside the buffers: this and nothing else.
struct Client {
  VESTIBULE_POINTER(const wires::Socket, &memory::SOCKET) socket;
  VESTIBULE_POINTER(const Hearing, &memory::HEARING) hearing;
  const Login* login;
  uint8_t* in;  ///< the packet that is coming, as far as it fits
  uint16_t inSize;
  uint8_t* out;  ///< packets that wait to be sent, one behind the other
  uint16_t outSize;
  uint16_t outUsed;
  uint16_t outSent;     ///< of the first one
  uint32_t remaining;   ///< bytes of the coming packet that are not here yet
  uint16_t inUsed;      ///< bytes of it that are
  uint16_t packetId;    ///< the last that was given
  uint16_t waitsFor;    ///< the packet id whose acknowledgement is awaited; 0: none
  uint16_t subscribes;  ///< that of the last subscription
  uint32_t sentAt;
  uint32_t heardAt;
  uint32_t beganAt;
  State state;
  End end;
  uint8_t header;  ///< bytes of the fixed header that are here
  uint8_t shift;   ///< of the remaining length
  bool tooLong;    ///< the coming packet does not fit and is passed over
  bool pinged;     ///< a ping is not answered yet
  bool lost;       ///< something did not fit into the buffer
};

/// Ties a client to its buffers. `out` must hold the greeting and the longest message.
void prepare(Client& client, uint8_t* in, uint16_t inSize, uint8_t* out, uint16_t outSize);
#ifndef VESTIBULE_ONE_CONTROLLER
/// The same, and to its socket.
void prepare(Client& client, const wires::Socket& socket, const Hearing& hearing, uint8_t* in, uint16_t inSize,
             uint8_t* out, uint16_t outSize);
#endif
/// Begins to connect. `login` and its texts must outlive the connection.
void connect(Client& client, const Login& login, Words address, uint16_t port, bool tls, uint32_t nowMs);
/// Reads and writes what can be read and written now. To be called at each pass.
void pass(Client& client, uint32_t nowMs);
/// Writes what waits, as far as it is taken now.
void flush(Client& client, uint32_t nowMs);
/// False: it did not fit, and `lost` says so until it is cleared.
bool publish(Client& client, const char* topic, const char* payload, uint8_t qos, bool retain);
bool subscribe(Client& client, const char* filter, uint8_t qos);
/// Ends the connection without the will (3.14).
void disconnect(Client& client);
/// Ends the connection so that the will is said.
void drop(Client& client);
/// In plain words, for a log.
Words wordOf(End end);

}  // namespace mqtt
}  // namespace vestibule

#endif
