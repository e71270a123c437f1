#include "mqtt.h"
#include "bytes.h"
#include "text.h"

namespace vestibule {
namespace mqtt {

namespace {

using wires::Connection;

// 2.2.1, table 2.1: the kind of a packet in the upper half of its first byte; flags as 2.2.2, table 2.2 wants them.
constexpr uint8_t CONNECT = 0x10;
constexpr uint8_t CONNACK = 0x20;
constexpr uint8_t PUBLISH = 0x30;
constexpr uint8_t PUBACK = 0x40;
constexpr uint8_t SUBSCRIBE = 0x82;  // [MQTT-3.8.1-1]
constexpr uint8_t SUBACK = 0x90;
constexpr uint8_t PINGREQ = 0xc0;
constexpr uint8_t PINGRESP = 0xd0;
constexpr uint8_t DISCONNECT = 0xe0;
constexpr uint8_t DUP = 0x08;
constexpr uint8_t RETAIN = 0x01;

/// From the first byte to the answer to our greeting (common practice; 3.1.4 leaves the time open).
#ifndef VESTIBULE_ANSWER_MS
#define VESTIBULE_ANSWER_MS 10000
#endif
constexpr uint32_t GREETING_MS = VESTIBULE_ANSWER_MS;
constexpr uint32_t CONNECTING_MS = VESTIBULE_ANSWER_MS;
/// In one pass no more than that is read, so that a server that floods does not hold the controller up.
constexpr uint8_t READS_IN_A_PASS = 8;
#ifdef VESTIBULE_ONE_CONTROLLER
constexpr uint8_t CHUNK = 8;
#else
constexpr uint8_t CHUNK = 32;
#endif
constexpr uint8_t LONGEST_LENGTH = 4;  // 2.2.3
constexpr uint8_t HEADER = 1 + LONGEST_LENGTH;

void ends(Client& client, End why) {
  client.socket->close(client.socket->context);
  client.state = State::down;
  client.end = why;
  client.outUsed = 0;
  client.outSent = 0;
}

// ---- sending: packets stand in `out` as they go over the wire, the first of them being sent ----

struct Writer {
  uint8_t* at;
};
void put(Writer& writer, uint8_t byte) { *writer.at++ = byte; }
void putNumber(Writer& writer, uint16_t number) {
  put(writer, static_cast<uint8_t>(number >> 8));
  put(writer, static_cast<uint8_t>(number));
}
// 1.5.3: a text is preceded by its length
void putText(Writer& writer, const char* text) {
  const uint16_t length = static_cast<uint16_t>(lengthOf(text));
  putNumber(writer, length);
  bytes::copy(writer.at, text, length);
  writer.at += length;
}
size_t textBytes(const char* text) { return 2 + lengthOf(text); }

// The same of texts of the tables; `before` goes ahead of it, as one.
uint16_t lengthOfWords(Words words) {
  uint16_t length = 0;
  while (charAt(words + length) != '\0') length++;
  return length;
}
void putCharacters(Writer& writer, Words words) {
  for (char c = charAt(words); c != '\0'; c = charAt(++words)) put(writer, static_cast<uint8_t>(c));
}
void putWords(Writer& writer, Words words, Words before = nullptr) {
  const uint16_t first = before == nullptr ? static_cast<uint16_t>(0) : lengthOfWords(before);
  putNumber(writer, static_cast<uint16_t>(first + lengthOfWords(words)));
  if (before != nullptr) putCharacters(writer, before);
  putCharacters(writer, words);
}
size_t wordsBytes(Words words) { return 2 + static_cast<size_t>(lengthOfWords(words)); }

// 2.2.3: seven bits a byte, the lowest first; [MQTT-2.2.3] at most four bytes
uint8_t lengthBytes(uint32_t length) { return length < 128 ? 1 : length < 16384 ? 2 : length < 2097152 ? 3 : 4; }
void putLength(Writer& writer, size_t length) {
  do {
    const uint8_t low = static_cast<uint8_t>(length & 0x7f);
    length >>= 7;
    put(writer, length > 0 ? static_cast<uint8_t>(low | 0x80) : low);
  } while (length > 0);
}

// Room for a packet behind those that wait, its fixed header written; null: it does not fit.
bool begins(Client& client, uint8_t first, size_t length, Writer& writer) {
  const size_t whole = 1 + lengthBytes(length) + length;
  if (client.outUsed + whole > client.outSize) {
    client.lost = true;
    return false;
  }
  writer.at = client.out + client.outUsed;
  client.outUsed = static_cast<uint16_t>(client.outUsed + whole);
  put(writer, first);
  putLength(writer, length);
  return true;
}

// [MQTT-2.3.1-1]: never 0; one that is awaited is not given again
uint16_t nextId(Client& client) {
  do {
    client.packetId++;
  } while (client.packetId == 0 || client.packetId == client.waitsFor);
  return client.packetId;
}

// Length of the first packet that waits.
size_t firstLength(const Client& client) {
  size_t length = 0;
  uint8_t shift = 0;
  uint8_t at = 1;
  for (;; at++) {
    length |= static_cast<size_t>(client.out[at] & 0x7f) << shift;
    shift = static_cast<uint8_t>(shift + 7);
    if ((client.out[at] & 0x80) == 0) break;
  }
  return 1 + at + length;
}

void dropFirst(Client& client) {
  const size_t length = firstLength(client);
  client.outUsed = static_cast<uint16_t>(client.outUsed - length);
  client.outSent = 0;
  bytes::moveDown(client.out, client.out + length, client.outUsed);
}

bool isQos1(uint8_t first) { return (first & 0xf0) == PUBLISH && (first & 0x06) != 0; }

// The packet id of a message stands behind its topic (3.3.2.2).
uint16_t idOfFirst(const Client& client) {
  uint8_t at = 1;
  while ((client.out[at] & 0x80) != 0) at++;
  at++;
  const uint16_t topic = static_cast<uint16_t>(client.out[at] << 8 | client.out[at + 1]);
  const uint8_t* id = client.out + at + 2 + topic;
  return static_cast<uint16_t>(id[0] << 8 | id[1]);
}

// Sends packet by packet; a message of QoS 1 stays at the head until it is acknowledged (4.3.2), so that one is on its
// way at a time and the order is kept [MQTT-4.6.0-1].
void sends(Client& client, uint32_t now) {
  while (client.outUsed > 0) {
    const size_t length = firstLength(client);
    if (client.outSent < length) {
      const size_t taken =
          client.socket->write(client.socket->context, client.out + client.outSent, length - client.outSent);
      if (taken == 0) return;
      client.outSent = static_cast<uint16_t>(client.outSent + taken);
      client.sentAt = now;
      if (client.outSent < length) return;
      if (isQos1(client.out[0])) client.waitsFor = idOfFirst(client);
    }
    if (isQos1(client.out[0])) return;
    dropFirst(client);
  }
}

// 3.1: the greeting is the first packet [MQTT-3.1.0-1], and there is one of it [MQTT-3.1.0-2].
void greets(Client& client) {
  const Login& login = *client.login;
  const bool will = charAt(login.willTopic) != '\0';
  const bool user = charAt(login.user) != '\0';
  // 10 bytes of variable header, then client id, will, user and password in this order [MQTT-3.1.3-1]
  size_t length = 10 + wordsBytes(login.client);
  if (will) length += lengthOfWords(login.willPrefix) + wordsBytes(login.willTopic) + wordsBytes(login.will);
  if (user) length += wordsBytes(login.user) + wordsBytes(login.password);
  Writer writer;
  client.outUsed = 0;
  client.outSent = 0;
  if (!begins(client, CONNECT, length, writer)) return ends(client, End::broken);
  putWords(writer, WORDS("MQTT"));  // [MQTT-3.1.2-1]
  put(writer, 4);                   // 3.1.2.2: version 3.1.1
  // 3.1.2.3: clean session (0x02); a will (0x04) of QoS 1 (0x08), retained (0x20); password (0x40) only with a user
  // (0x80) [MQTT-3.1.2-22]; the lowest bit stays 0 [MQTT-3.1.2-3]
  put(writer, static_cast<uint8_t>(0x02 | (will ? 0x04 | 0x08 : 0) | (will && login.willRetain ? 0x20 : 0) |
                                   (user ? 0x80 | 0x40 : 0)));
  putNumber(writer, login.keepAliveS);
  putWords(writer, login.client);
  if (will) {
    putWords(writer, login.willTopic, login.willPrefix);
    putWords(writer, login.will);
  }
  if (user) {
    putWords(writer, login.user);
    putWords(writer, login.password);
  }
}

// ---- hearing ----

uint16_t numberAt(const uint8_t* at) { return static_cast<uint16_t>(at[0] << 8 | at[1]); }

void acknowledges(Client& client, uint16_t id) {
  Writer writer;
  // what cannot be acknowledged now is sent again later [MQTT-4.3.2-2]
  if (!begins(client, PUBACK, 2, writer)) return;
  putNumber(writer, id);
}

// 3.3: a message. [MQTT-3.3.1-4]: QoS 3 closes the connection; QoS 2 was never granted, since none was asked for.
void hearsMessage(Client& client, uint8_t first, uint8_t* body, uint16_t length) {
  const uint8_t qos = static_cast<uint8_t>(first >> 1 & 3);
  const uint16_t topic = length >= 2 ? numberAt(body) : 0xffff;
  const uint16_t head = static_cast<uint16_t>(2 + (qos > 0 ? 2 : 0));
  // [MQTT-3.3.1-2]: a message of QoS 0 is none that is sent again
  if (qos > 1 || length < head || topic > length - head || topic == 0 || (qos == 0 && (first & DUP) != 0))
    return ends(client, End::broken);
  const uint16_t id = qos > 0 ? numberAt(body + 2 + topic) : 0;
  if (qos > 0 && id == 0) return ends(client, End::broken);  // [MQTT-2.3.1-1]
  // the topic moves over its length, so that it can end with a nought
  bytes::moveDown(body, body + 2, topic);
  body[topic] = '\0';
  const uint16_t from = static_cast<uint16_t>(topic + head);
  // 1.5.3: a nought in a topic is none [MQTT-1.5.3-2]; wildcards stand in no message [MQTT-3.3.2-2]
  for (uint16_t i = 0; i < topic; i++) {
    if (body[i] == '\0' || body[i] == '+' || body[i] == '#') return ends(client, End::broken);
  }
  client.hearing->message(client.hearing->context, reinterpret_cast<const char*>(body),
                          reinterpret_cast<const char*>(body + from), static_cast<size_t>(length - from),
                          (first & RETAIN) != 0, (first & DUP) != 0);
  // [MQTT-4.3.2-2]: acknowledged when it has been passed on
  if (qos > 0 && client.state == State::up) acknowledges(client, id);
}

// 3.2.2.3: 0 is yes, and every other code closes
void hearsAnswer(Client& client, const uint8_t* body, uint16_t length) {
  if (length != 2) return ends(client, End::broken);
  static const End WHY[] = {End::none,        End::wrongVersion, End::wrongClient,
                            End::unavailable, End::wrongLogin,   End::notAllowed};
  if (body[1] != 0) return ends(client, body[1] < sizeof WHY / sizeof *WHY ? WHY[body[1]] : End::refused);
  // a clean session has nothing of before [MQTT-3.2.2-1]; the flags' other bits stay 0
  if (body[0] != 0) return ends(client, End::broken);
  client.state = State::up;
}

void hearsPacket(Client& client) {
  const uint8_t first = client.in[0];
  uint8_t* body = client.in + 1;
  const uint16_t length = static_cast<uint16_t>(client.inUsed - 1);
  // 3.2: the first packet of a server is the answer [MQTT-3.2.0-1], and it comes once
  if ((first == CONNACK) != (client.state == State::greeting)) return ends(client, End::broken);
  if (first == CONNACK) return hearsAnswer(client, body, length);
  if ((first & 0xf0) == PUBLISH) return hearsMessage(client, first, body, length);
  if (first == PUBACK && length == 2) {
    if (client.outUsed == 0 || numberAt(body) != client.waitsFor || client.waitsFor == 0) return;
    client.waitsFor = 0;
    return dropFirst(client);
  }
  // 3.9.3: 0x80 refuses a subscription
  if (first == SUBACK && length == 3) {
    if (body[2] == 0x80) ends(client, End::refused);
    return;
  }
  if (first == PINGRESP && length == 0) {
    client.pinged = false;
    return;
  }
  // 2.2.2 [MQTT-2.2.2-2]: wrong flags, and packets that no server sends, close the connection
  ends(client, End::broken);
}

// One byte of a packet: first byte, length, and what follows. A packet that does not fit is passed over: a message that
// is longer than any of ours is none for us.
void takes(Client& client, uint8_t byte) {
  if (client.header == 0) {
    client.in[0] = byte;
    client.inUsed = 1;
    client.remaining = 0;
    client.shift = 0;
    client.header = 1;
    client.tooLong = false;
    return;
  }
  if (client.header <= LONGEST_LENGTH) {
    client.remaining |= static_cast<uint32_t>(byte & 0x7f) << client.shift;
    client.shift = static_cast<uint8_t>(client.shift + 7);
    if ((byte & 0x80) != 0) {
      // 2.2.3: no fifth byte
      if (++client.header > LONGEST_LENGTH) ends(client, End::broken);
      return;
    }
    client.header = HEADER;
    client.tooLong = client.remaining + 2 > client.inSize;
  } else {
    if (!client.tooLong) client.in[client.inUsed++] = byte;
    client.remaining--;
  }
  if (client.remaining > 0) return;
  client.header = 0;
  if (!client.tooLong) hearsPacket(client);
}

void reads(Client& client, uint32_t now) {
  uint8_t chunk[CHUNK];
  for (uint8_t i = 0; i < READS_IN_A_PASS && client.state != State::down; i++) {
    const size_t size = client.socket->read(client.socket->context, chunk, sizeof chunk);
    if (size == 0) return;
    client.heardAt = now;
    for (size_t at = 0; at < size && client.state != State::down; at++) takes(client, chunk[at]);
  }
}

// 3.1.2.10: something is sent within each keep-alive [MQTT-3.1.2-23], early enough for a slow network; and a server
// that does not answer a ping within another is gone.
void keepsAlive(Client& client, uint32_t now) {
  const uint32_t period = static_cast<uint32_t>(client.login->keepAliveS) * 1000;
  if (period == 0) return;
  if (client.pinged && now - client.sentAt > period / 2 && now - client.heardAt > period)
    return ends(client, End::silent);
  // a message whose acknowledgement stays away says the same
  if (client.waitsFor != 0 && now - client.heardAt > period + period / 2) return ends(client, End::silent);
  if (client.pinged || (now - client.sentAt < period / 2 && now - client.heardAt < period / 2)) return;
  Writer writer;
  // behind a message that waits it would wait too: it goes when that has gone
  if (client.outUsed > 0 || !begins(client, PINGREQ, 0, writer)) return;
  client.pinged = true;
}

}  // namespace

void prepare(Client& client, uint8_t* in, uint16_t inSize, uint8_t* out, uint16_t outSize) {
  client = Client();
  client.in = in;
  client.inSize = inSize;
  client.out = out;
  client.outSize = outSize;
}

#ifndef VESTIBULE_ONE_CONTROLLER
void prepare(Client& client, const wires::Socket& socket, const Hearing& hearing, uint8_t* in, uint16_t inSize,
             uint8_t* out, uint16_t outSize) {
  prepare(client, in, inSize, out, outSize);
  client.socket = &socket;
  client.hearing = &hearing;
}
#endif

void connect(Client& client, const Login& login, Words address, uint16_t port, bool tls, uint32_t nowMs) {
  client.login = &login;
  client.header = 0;
  client.waitsFor = 0;
  client.pinged = false;
  client.lost = false;
  client.outUsed = 0;
  client.outSent = 0;
  client.beganAt = nowMs;
  client.end = End::none;
  client.state = State::connecting;
  if (!client.socket->open(client.socket->context, address, port, tls)) ends(client, End::unreachable);
}

void pass(Client& client, uint32_t nowMs) {
  if (client.state == State::down) return;
  const Connection connection = client.socket->state(client.socket->context);
  if (client.state == State::connecting) {
    if (connection == Connection::closed || nowMs - client.beganAt > CONNECTING_MS)
      return ends(client, End::unreachable);
    if (connection == Connection::opening) return;
    client.state = State::greeting;
    client.beganAt = nowMs;
    client.sentAt = nowMs;
    client.heardAt = nowMs;
    greets(client);
  }
  // what has come before the end still counts
  reads(client, nowMs);
  if (client.state == State::down) return;
  if (connection == Connection::closed) return ends(client, End::gone);
  if (client.state == State::greeting && nowMs - client.beganAt > GREETING_MS) return ends(client, End::silent);
  if (client.state == State::up) keepsAlive(client, nowMs);
  if (client.state != State::down) sends(client, nowMs);
}

void flush(Client& client, uint32_t nowMs) {
  if (client.state == State::up) sends(client, nowMs);
}

bool publish(Client& client, const char* topic, const char* payload, uint8_t qos, bool retain) {
  if (client.state != State::up) return false;
  const size_t length = lengthOf(payload);
  Writer writer;
  // 3.3.1: DUP stays 0, since nothing outlives its connection [MQTT-3.3.1-1]
  if (!begins(client, static_cast<uint8_t>(PUBLISH | (qos > 0 ? 0x02 : 0) | (retain ? RETAIN : 0)),
              textBytes(topic) + (qos > 0 ? 2 : 0) + length, writer))
    return false;
  putText(writer, topic);
  if (qos > 0) putNumber(writer, nextId(client));  // [MQTT-2.3.1-5]: none at QoS 0
  bytes::copy(writer.at, payload, length);
  return true;
}

bool subscribe(Client& client, const char* filter, uint8_t qos) {
  if (client.state != State::up) return false;
  Writer writer;
  if (!begins(client, SUBSCRIBE, 2 + textBytes(filter) + 1, writer)) return false;
  client.subscribes = nextId(client);
  putNumber(writer, client.subscribes);
  putText(writer, filter);
  put(writer, qos);  // [MQTT-3.8.3-4]: the other bits stay 0
  return true;
}

void disconnect(Client& client) {
  if (client.state == State::up) {
    const uint8_t packet[] = {DISCONNECT, 0};
    // behind a packet that is half sent it would be read as part of that
    if (client.outSent == 0) client.socket->write(client.socket->context, packet, sizeof packet);
  }
  ends(client, End::none);
}

// 3.1.2.5: a connection that closes without a DISCONNECT has the server say the will [MQTT-3.1.2-8]
void drop(Client& client) { ends(client, End::none); }

Words wordOf(End end) {
  switch (end) {
    case End::none: return WORDS("ended");
    case End::unreachable: return WORDS("nobody answers at the address");
    case End::silent: return WORDS("no word from the other end");
    case End::gone: return WORDS("closed by the other end");
    case End::broken: return WORDS("the other end does not speak MQTT 3.1.1");
    case End::wrongVersion: return WORDS("refused: version");
    case End::wrongClient: return WORDS("refused: client id");
    case End::unavailable: return WORDS("refused: service not available");
    case End::wrongLogin: return WORDS("refused: wrong user or password");
    case End::notAllowed: return WORDS("refused: not authorised");
    case End::refused: return WORDS("refused");
  }
  return WORDS("");
}

}  // namespace mqtt
}  // namespace vestibule
