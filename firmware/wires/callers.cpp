#include "head.h"
#include "bytes.h"
#include "request.h"

namespace vestibule {
namespace hook {

namespace {

/// A caller has so long to ask (common practice).
constexpr uint32_t LONGEST_MS = 5000;
constexpr uint8_t READS_IN_A_PASS = 8;
constexpr uint32_t LONGEST_BODY = 1024;

void copies(char* to, size_t size, const char* from) {
  size_t i = 0;
  for (; from[i] != '\0' && i + 1 < size; i++) to[i] = from[i];
  to[i] = '\0';
}

void ends(Server& server) {
  server.socket->close(server.socket->context);
  server.state = State::waiting;
}

// RFC 9112, 3: "POST /path HTTP/1.1"
bool readLine(Server& server) {
  char* path = bytes::find(server.line, ' ');
  if (path == nullptr || path - server.line >= static_cast<long>(sizeof server.method)) return false;
  *path++ = '\0';
  char* version = bytes::find(path, ' ');
  if (version == nullptr || !bytes::begins(version + 1, "HTTP/1.")) return false;
  *version = '\0';
  copies(server.method, sizeof server.method, server.line);
  copies(server.path, sizeof server.path, path);
  return path[0] == '/';
}

void readHead(Server& server) {
  if (const char* key = http::valueOf(server.line, "x-key")) copies(server.key, sizeof server.key, key);
  if (const char* once = http::valueOf(server.line, "idempotency-key")) copies(server.once, sizeof server.once, once);
  if (const char* length = http::valueOf(server.line, "content-length")) {
    // a body says nothing here, and is only passed over
    if (!http::readLength(length, server.remaining) || server.remaining > LONGEST_BODY) server.isBad = true;
  }
  if (http::valueOf(server.line, "transfer-encoding") != nullptr) server.isBad = true;
}

void asked(Server& server) {
  server.state = State::answering;
  if (server.isBad) return reply(server, 400);
  server.answerUsed = 0;
  server.call->arrives(server.call->context, server.method, server.path, server.key, server.once);
  if (server.answerUsed == 0) reply(server, 503);
}

void takesLine(Server& server) {
  server.line[server.lineUsed] = '\0';
  if (server.state == State::line) {
    // RFC 9112, 2.2: empty lines before a request are passed over
    if (server.lineUsed == 0) return;
    if (server.tooLong || !readLine(server)) server.isBad = true;
    server.state = State::head;
  } else if (server.lineUsed > 0) {
    if (server.tooLong) server.isBad = true;
    readHead(server);
  } else if (server.remaining > 0 && !server.isBad) {
    server.state = State::body;
  } else {
    asked(server);
  }
  server.lineUsed = 0;
  server.tooLong = false;
}

void takes(Server& server, char byte) {
  if (server.state == State::body) {
    if (--server.remaining == 0) asked(server);
    return;
  }
  if (byte == '\n') return takesLine(server);
  if (byte == '\r') return;
  if (server.lineUsed + 1u < sizeof server.line) {
    server.line[server.lineUsed++] = byte;
  } else {
    server.tooLong = true;
  }
}

void hears(Server& server) {
  char chunk[64];
  for (uint8_t i = 0; i < READS_IN_A_PASS && server.state != State::answering; i++) {
    const size_t size = server.socket->read(server.socket->context, reinterpret_cast<uint8_t*>(chunk), sizeof chunk);
    for (size_t at = 0; at < size && server.state != State::answering; at++) takes(server, chunk[at]);
    if (size > 0) continue;
    if (server.socket->state(server.socket->context) == wires::Connection::closed) ends(server);
    return;
  }
}

}  // namespace

void prepare(Server& server, const wires::Listener& listener, const wires::Socket& socket, const Call& call) {
  server = Server();
  server.listener = &listener;
  server.socket = &socket;
  server.call = &call;
}

void reply(Server& server, uint16_t status) {
  static const char BEGINS[] = "HTTP/1.1 ";
  static const char REST[] = " -\r\nContent-Length: 0\r\nConnection: close\r\n\r\n";
  bytes::copy(server.answer, BEGINS, sizeof BEGINS - 1);
  char* at = server.answer + sizeof BEGINS - 1;
  *at++ = static_cast<char>('0' + status / 100);
  *at++ = static_cast<char>('0' + status / 10 % 10);
  *at++ = static_cast<char>('0' + status % 10);
  bytes::copy(at, REST, sizeof REST - 1);
  server.answerUsed = static_cast<uint8_t>(at - server.answer + static_cast<long>(sizeof REST) - 1);
  server.answerSent = 0;
}

void pass(Server& server, uint32_t nowMs) {
  if (server.state == State::waiting) {
    if (!server.listener->accept(server.listener->context)) return;
    server.state = State::line;
    server.beganAt = nowMs;
    server.lineUsed = 0;
    server.tooLong = false;
    server.isBad = false;
    server.remaining = 0;
    server.key[0] = '\0';
    server.once[0] = '\0';
  }
  if (nowMs - server.beganAt > LONGEST_MS) return ends(server);
  if (server.state != State::answering) hears(server);
  if (server.state != State::answering) return;
  const size_t taken =
      server.socket->write(server.socket->context, reinterpret_cast<const uint8_t*>(server.answer) + server.answerSent,
                           static_cast<size_t>(server.answerUsed - server.answerSent));
  server.answerSent = static_cast<uint8_t>(server.answerSent + taken);
  if (server.answerSent == server.answerUsed ||
      server.socket->state(server.socket->context) == wires::Connection::closed)
    ends(server);
}

}  // namespace hook
}  // namespace vestibule
