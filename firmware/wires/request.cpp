#include "request.h"
#include "bytes.h"

#include "head.h"

namespace vestibule {
namespace http {

namespace {

using wires::Connection;

/// From the first byte to the last of an answer (common practice).
constexpr uint32_t LONGEST_MS = 10000;
constexpr uint8_t READS_IN_A_PASS = 8;

struct Writer {
  char* at;
  size_t left;
  bool fits;
};
void put(Writer& writer, const char* text) {
  const size_t length = bytes::length(text);
  if (length > writer.left) {
    writer.fits = false;
    return;
  }
  bytes::copy(writer.at, text, length);
  writer.at += length;
  writer.left -= length;
}
void putNumber(Writer& writer, size_t number) {
  char digits[12];
  uint8_t at = sizeof digits - 1;
  digits[at] = '\0';
  do {
    digits[--at] = static_cast<char>('0' + number % 10);
    number /= 10;
  } while (number > 0);
  put(writer, digits + at);
}

}  // namespace

static char lower(char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c; }

// Does a line of the head bear this name? RFC 9110, 5.1: names are read in either case. Then `value` is behind it.
const char* valueOf(const char* line, const char* name) {
  while (*name != '\0') {
    if (lower(*line++) != *name++) return nullptr;
  }
  if (*line++ != ':') return nullptr;
  while (*line == ' ' || *line == '\t') line++;
  return line;
}

bool readLength(const char* value, uint32_t& length) {
  length = 0;
  if (*value < '0' || *value > '9') return false;
  for (; *value >= '0' && *value <= '9'; value++) {
    if (length > 100000000u) return false;
    length = length * 10 + static_cast<uint32_t>(*value - '0');
  }
  return true;
}

namespace {

bool holds(const char* value, const char* word) {
  for (; *value != '\0'; value++) {
    size_t i = 0;
    while (word[i] != '\0' && lower(value[i]) == word[i]) i++;
    if (word[i] == '\0') return true;
  }
  return false;
}

void done(Client& client, uint16_t status, bool keep) {
  if (!keep) client.socket->close(client.socket->context);
  client.kept = keep;
  client.state = State::idle;
  client.answer->arrives(client.answer->context, status, client.in, status == 0 ? 0 : client.inUsed, client.isWhole);
}

void fails(Client& client) { done(client, 0, false); }

bool opens(Client& client) {
  client.outSent = 0;
  client.part = Part::status;
  client.lineUsed = 0;
  client.inUsed = 0;
  client.isWhole = true;
  client.keeps = true;
  client.chunked = false;
  client.hasLength = false;
  if (client.kept && client.socket->state(client.socket->context) == Connection::open) {
    client.state = State::sending;
    return true;
  }
  client.kept = false;
  client.state = State::opening;
  return client.socket->open(client.socket->context, client.address, client.port, client.tls);
}

// A kept connection may have been closed just before the request came to it: then it is sent once more.
void breaks(Client& client) {
  if (client.kept && client.again && client.part == Part::status && client.lineUsed == 0) {
    client.kept = false;
    client.again = false;
    client.socket->close(client.socket->context);
    if (opens(client)) return;
  }
  fails(client);
}

// RFC 9112, 4: "HTTP/1.1 200 …"
bool readStatus(Client& client) {
  const char* line = client.line;
  if (client.lineUsed < 12 || !bytes::begins(line, "HTTP/1.") || line[8] != ' ') return false;
  uint16_t status = 0;
  for (uint8_t i = 9; i < 12; i++) {
    if (line[i] < '0' || line[i] > '9') return false;
    status = static_cast<uint16_t>(status * 10 + (line[i] - '0'));
  }
  client.status = status;
  client.keeps = line[7] == '1';  // RFC 9112, 9.3
  client.chunked = false;
  client.hasLength = false;
  return status >= 100;
}

// False: an answer that cannot be read.
bool readHead(Client& client) {
  if (const char* value = valueOf(client.line, "content-length")) {
    if (!readLength(value, client.remaining)) return false;
    client.hasLength = true;
  } else if (const char* coding = valueOf(client.line, "transfer-encoding")) {
    // RFC 9112, 6.3: chunked goes before a length; any other coding is none that we asked for
    if (!holds(coding, "chunked")) return false;
    client.chunked = true;
  } else if (const char* connection = valueOf(client.line, "connection")) {
    if (holds(connection, "close")) client.keeps = false;
  }
  return true;
}

void whole(Client& client) { done(client, client.status, client.keeps && client.part != Part::toTheEnd); }

// RFC 9112, 6.3: how long the body is.
void headEnds(Client& client) {
  if (client.status < 200) {
    // 1xx: the real one follows (RFC 9110, 15.2)
    client.part = Part::status;
    return;
  }
  if (client.status == 204 || client.status == 304) return whole(client);
  if (client.chunked) {
    client.part = Part::chunkSize;
  } else if (client.hasLength) {
    client.part = Part::length;
    if (client.remaining == 0) whole(client);
  } else {
    client.part = Part::toTheEnd;
  }
}

void keepByte(Client& client, char byte) {
  // one place stays for the nought
  if (client.inUsed + 1u < client.inSize) {
    client.in[client.inUsed++] = byte;
  } else {
    client.isWhole = false;
  }
}

// RFC 9112, 7.1: hexadecimal, up to eight digits; what follows a semicolon is passed over.
bool readChunkSize(Client& client) {
  uint32_t size = 0;
  uint8_t at = 0;
  for (; at < client.lineUsed; at++) {
    const char c = lower(client.line[at]);
    if (c == ';' || c == ' ') break;
    const int digit = c >= '0' && c <= '9' ? c - '0' : c >= 'a' && c <= 'f' ? c - 'a' + 10 : -1;
    if (digit < 0 || at >= 8) return false;
    size = size << 4 | static_cast<uint32_t>(digit);
  }
  client.remaining = size;
  return at > 0;
}

// A whole line without its end.
void takesLine(Client& client) {
  client.line[client.lineUsed] = '\0';
  switch (client.part) {
    case Part::status:
      if (!readStatus(client)) return fails(client);
      client.part = Part::head;
      break;
    case Part::head:
      if (client.lineUsed == 0) {
        headEnds(client);
      } else if (!readHead(client)) {
        return fails(client);
      }
      break;
    case Part::chunkSize:
      if (!readChunkSize(client)) return fails(client);
      client.part = client.remaining == 0 ? Part::trailer : Part::chunk;
      break;
    case Part::chunkEnd:
      if (client.lineUsed != 0) return fails(client);
      client.part = Part::chunkSize;
      break;
    case Part::trailer:
      if (client.lineUsed == 0) return whole(client);
      break;
    default: break;
  }
  client.lineUsed = 0;
}

void takes(Client& client, char byte) {
  if (client.part == Part::toTheEnd) return keepByte(client, byte);
  if (client.part == Part::length || client.part == Part::chunk) {
    keepByte(client, byte);
    if (--client.remaining > 0) return;
    if (client.part == Part::length) return whole(client);
    client.part = Part::chunkEnd;
    return;
  }
  if (byte == '\n') return takesLine(client);
  if (byte != '\r' && client.lineUsed + 1u < sizeof client.line) client.line[client.lineUsed++] = byte;
}

void hears(Client& client) {
  char chunk[64];
  for (uint8_t i = 0; i < READS_IN_A_PASS && client.state == State::hearing; i++) {
    const size_t size = client.socket->read(client.socket->context, reinterpret_cast<uint8_t*>(chunk), sizeof chunk);
    for (size_t at = 0; at < size && client.state == State::hearing; at++) takes(client, chunk[at]);
    if (size > 0) continue;
    if (client.state != State::hearing || client.socket->state(client.socket->context) != Connection::closed) return;
    // a body without a length ends with the connection; anything else that ends so is cut off
    if (client.part == Part::toTheEnd) return whole(client);
    return breaks(client);
  }
}

}  // namespace

void prepare(Client& client, const wires::Socket& socket, const Answer& answer, char* out, uint16_t outSize, char* in,
             uint16_t inSize) {
  client = Client();
  client.socket = &socket;
  client.answer = &answer;
  client.out = out;
  client.outSize = outSize;
  client.in = in;
  client.inSize = inSize;
}

bool ask(Client& client, const char* address, uint16_t port, bool tls, const char* method, const char* path,
         const char* headers, const char* body, uint32_t nowMs) {
  if (client.state != State::idle) return false;
  const size_t length = bytes::length(body);
  Writer writer = {client.out, client.outSize, true};
  put(writer, method);
  put(writer, " ");
  put(writer, path);
  put(writer, " HTTP/1.1\r\nHost: ");  // RFC 9112, 3.2
  put(writer, address);
  put(writer, ":");
  putNumber(writer, port);
  put(writer, "\r\n");
  put(writer, headers);
  if (length > 0) {
    put(writer,
        body[0] == '{' || body[0] == '[' ? "Content-Type: application/json\r\n" : "Content-Type: text/plain\r\n");
    put(writer, "Content-Length: ");
    putNumber(writer, length);
    put(writer, "\r\n");
  } else if (!bytes::same(method, "GET")) {
    put(writer, "Content-Length: 0\r\n");  // RFC 9110, 8.6
  }
  put(writer, "\r\n");
  put(writer, body);
  if (!writer.fits) return false;
  client.outUsed = static_cast<uint16_t>(client.outSize - writer.left);
  client.address = address;
  client.port = port;
  client.tls = tls;
  client.beganAt = nowMs;
  client.again = !bytes::same(method, "POST") && !bytes::same(method, "PATCH");
  if (!opens(client)) fails(client);
  return true;
}

void pass(Client& client, uint32_t nowMs) {
  if (client.state == State::idle) return;
  if (nowMs - client.beganAt > LONGEST_MS) return fails(client);
  const Connection connection = client.socket->state(client.socket->context);
  if (client.state == State::opening) {
    if (connection == Connection::closed) return fails(client);
    if (connection == Connection::opening) return;
    client.state = State::sending;
  }
  if (client.state == State::sending) {
    const size_t taken =
        client.socket->write(client.socket->context, reinterpret_cast<const uint8_t*>(client.out) + client.outSent,
                             static_cast<size_t>(client.outUsed - client.outSent));
    client.outSent = static_cast<uint16_t>(client.outSent + taken);
    if (client.outSent < client.outUsed) {
      if (connection == Connection::closed) breaks(client);
      return;
    }
    client.state = State::hearing;
  }
  hears(client);
}

void stop(Client& client) {
  client.socket->close(client.socket->context);
  client.kept = false;
  client.state = State::idle;
}

}  // namespace http
}  // namespace vestibule
