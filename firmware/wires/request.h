// A client of HTTP/1.1 (RFC 9110, RFC 9112) for boards: one request at a time, no heap, no waiting. The connection is
// kept where the server keeps it. Redirects are answers like others: whoever asks refuses them.
#ifndef VESTIBULE_REQUEST_H
#define VESTIBULE_REQUEST_H

#include "socket.h"

namespace vestibule {
namespace http {

enum class State : uint8_t { idle, opening, sending, hearing };

/// What comes next of an answer.
enum class Part : uint8_t { status, head, length, chunkSize, chunk, chunkEnd, trailer, toTheEnd };

struct Answer {
  void* context;
  /// Status 0: there was none. `body` lives only during the call; it is cut where it is longer than the buffer, and
  /// `whole` is false then.
  void (*arrives)(void* context, uint16_t status, const char* body, size_t length, bool whole);
};

struct Client {
  const wires::Socket* socket;
  const Answer* answer;
  char* out;  ///< the request, as it goes over the wire
  uint16_t outSize;
  uint16_t outUsed;
  uint16_t outSent;
  char* in;  ///< the answer's body
  uint16_t inSize;
  uint16_t inUsed;
  uint32_t remaining;  ///< of the body, or of the chunk
  uint32_t beganAt;
  const char* address;
  uint16_t port;
  bool tls;
  State state;
  Part part;
  uint16_t status;
  char line[40];  ///< of the head, as far as it matters
  uint8_t lineUsed;
  bool kept;   ///< the connection stands from a request before
  bool again;  ///< and this one may be sent again over a new one (RFC 9110, 9.2.2)
  bool keeps;  ///< the server keeps it
  bool chunked;
  bool hasLength;
  bool isWhole;
};

void prepare(Client& client, const wires::Socket& socket, const Answer& answer, char* out, uint16_t outSize, char* in,
             uint16_t inSize);
/// Begins a request; `headers` are lines with their ends, `body` may be empty. False: one is on its way, or it does not
/// fit.
bool ask(Client& client, const char* address, uint16_t port, bool tls, const char* method, const char* path,
         const char* headers, const char* body, uint32_t nowMs);
void pass(Client& client, uint32_t nowMs);
/// Whatever is on its way is given up; nobody is told.
void stop(Client& client);

}  // namespace http

namespace hook {

/// What somebody asks of the controller; texts live only during the call.
struct Call {
  void* context;
  void (*arrives)(void* context, const char* method, const char* path, const char* key, const char* once);
};

enum class State : uint8_t { waiting, line, head, body, answering };

/// One caller at a time; the others wait in the socket's own queue.
struct Server {
  const wires::Listener* listener;
  const wires::Socket* socket;
  const Call* call;
  char method[8];
  char path[128];
  char key[64];
  char once[64];
  char line[96];
  char answer[96];
  uint8_t lineUsed;
  uint8_t answerUsed;
  uint8_t answerSent;
  bool tooLong;
  bool isBad;
  uint32_t remaining;
  uint32_t beganAt;
  State state;
};

void prepare(Server& server, const wires::Listener& listener, const wires::Socket& socket, const Call& call);
void pass(Server& server, uint32_t nowMs);
/// The answer to the call that has just arrived.
void reply(Server& server, uint16_t status);

}  // namespace hook
}  // namespace vestibule

#endif
