#include "pairing.h"

#include "text.h"

namespace vestibule {
namespace pairing {

namespace {

constexpr uint8_t BYTES_IN_A_PASS = 64;

bool isOver(uint32_t at, uint32_t now) { return static_cast<int32_t>(now - at) >= 0; }

void answers(Pairing& pairing, Words first, Words second, uint32_t number, bool hasNumber) {
  char text[128];
  Text out = {text, sizeof text};
  append(out, first);
  append(out, second);
  if (hasNumber) appendNumber(out, number);
  append(out, '\n');
  pairing.socket.write(pairing.socket.context, reinterpret_cast<const uint8_t*>(text), lengthOf(text));
}

void ends(Pairing& pairing) {
  if (pairing.isOpen) pairing.socket.close(pairing.socket.context);
  pairing.isOpen = false;
  pairing.isKnown = false;
  pairing.lineLength = 0;
  pairing.tooLong = false;
}

// As long whatever is wrong about it, so that nobody learns the PIN by the time that a refusal takes.
bool isPin(const char* said, Words pin) {
  size_t length = 0;
  uint8_t differs = 0;
  const size_t size = lengthOf(said);
  for (char c = charAt(pin); c != '\0'; c = charAt(pin + ++length))
    differs = static_cast<uint8_t>(differs | (c ^ (length < size ? said[length] : '\0')));
  return length > 0 && length == size && differs == 0;
}

// "ok fernhollow/glaze 0123456789ab": the prefix without its first level and its last slash.
void introduces(Pairing& pairing) {
  char text[128];
  Text out = {text, sizeof text};
  append(out, WORDS("ok "));
  Words at = pairing.identity->prefix;
  while (charAt(at) != '/') at++;
  for (at++; charAt(at + 1) != '\0'; at++) append(out, charAt(at));
  append(out, ' ');
  append(out, pairing.identity->hash);
  append(out, '\n');
  pairing.socket.write(pairing.socket.context, reinterpret_cast<const uint8_t*>(text), lengthOf(text));
}

void greets(Pairing& pairing, const char* pin, uint32_t now) {
  if (pairing.isClosed && isOver(pairing.closedUntil, now)) {
    pairing.isClosed = false;
    pairing.wrong = 0;
  }
  if (pairing.isClosed)
    return answers(pairing, WORDS("wait "), WORDS(""), (pairing.closedUntil - now + 999) / 1000, true);
  if (isPin(pin, pairing.identity->pin)) {
    pairing.wrong = 0;
    pairing.isKnown = true;
    pairing.draft = Settings();
    return introduces(pairing);
  }
  pairing.wrong++;
  if (pairing.wrong < MOST_WRONG)
    return answers(pairing, WORDS("wrong "), WORDS(""), static_cast<uint32_t>(MOST_WRONG - pairing.wrong), true);
  pairing.isClosed = true;
  pairing.closedUntil = now + CLOSED_MS;
  answers(pairing, WORDS("wait "), WORDS(""), CLOSED_MS / 1000, true);
}

bool copies(char* to, size_t size, const char* from) {
  if (lengthOf(from) >= size) return false;
  for (size_t i = 0; i <= lengthOf(from); i++) to[i] = from[i];
  return true;
}

// Cuts a text behind its first word; the rest, or its end.
char* afterWord(char* text) {
  while (*text != '\0' && *text != ' ') text++;
  if (*text == '\0') return text;
  *text = '\0';
  return text + 1;
}

bool is(const char* text, Words word) { return equals(text, lengthOf(text), word); }

bool linkSays(Pairing& pairing, const char* what, char* rest) {
  char* value = afterWord(rest);
  for (uint8_t i = 0; i < pairing.identity->linkCount; i++) {
    if (!is(rest, pairing.identity->links[i])) continue;
    LinkSettings& link = pairing.draft.links[i];
    if (is(what, WORDS("address"))) return copies(link.address, sizeof link.address, value);
    if (is(what, WORDS("user"))) return copies(link.user, sizeof link.user, value);
    if (is(what, WORDS("password"))) return copies(link.password, sizeof link.password, value);
    int32_t port = 0;
    if (!is(what, WORDS("port")) || !wholeNumber(value, lengthOf(value), port) || port < 1 || port > 65535)
      return false;
    link.port = static_cast<uint16_t>(port);
    return true;
  }
  return false;
}

void takesLine(Pairing& pairing, uint32_t now) {
  char* rest = afterWord(pairing.line);
  const char* what = pairing.line;
  if (!pairing.isKnown) {
    if (is(what, WORDS("vestibule-pair")) && !pairing.tooLong) return greets(pairing, rest, now);
    return ends(pairing);
  }
  if (is(what, WORDS("end"))) {
    pairing.draft.isPaired = true;
    *pairing.settings = pairing.draft;
    pairing.isNew = true;
    pairing.isOffered = false;
    answers(pairing, WORDS("done"), WORDS(""), 0, false);
    return ends(pairing);
  }
  Settings& draft = pairing.draft;
  const bool fine = !pairing.tooLong && (is(what, WORDS("network"))  ? copies(draft.network, NAME_SIZE, rest)
                                         : is(what, WORDS("secret")) ? copies(draft.secret, SECRET_SIZE, rest)
                                                                     : linkSays(pairing, what, rest));
  if (fine) return;
  answers(pairing, WORDS("bad "), what, 0, false);
  ends(pairing);
}

void takes(Pairing& pairing, char character, uint32_t now) {
  if (character == '\n') {
    pairing.line[pairing.lineLength] = '\0';
    takesLine(pairing, now);
    pairing.lineLength = 0;
    pairing.tooLong = false;
    return;
  }
  if (character == '\0' || pairing.lineLength + 1u >= sizeof pairing.line) {
    pairing.tooLong = true;
  } else {
    pairing.line[pairing.lineLength++] = character;
  }
}

void reads(Pairing& pairing, uint32_t now) {
  uint8_t buffer[BYTES_IN_A_PASS];
  const size_t size = pairing.socket.read(pairing.socket.context, buffer, sizeof buffer);
  if (size > 0) pairing.heardAt = now;
  for (size_t i = 0; i < size && pairing.isOpen; i++) takes(pairing, static_cast<char>(buffer[i]), now);
  if (!pairing.isOpen) return;
  const bool gone = size == 0 && pairing.socket.state(pairing.socket.context) == wires::Connection::closed;
  if (gone || now - pairing.heardAt > LONGEST_SILENCE_MS) ends(pairing);
}

}  // namespace

void prepare(Pairing& pairing, const Identity& identity, const wires::Listener& listener, const wires::Socket& socket,
             uint16_t port, Settings& settings) {
  pairing = Pairing();
  pairing.identity = &identity;
  pairing.listener = listener;
  pairing.socket = socket;
  pairing.port = port;
  pairing.settings = &settings;
}

bool offer(Pairing& pairing, uint32_t nowMs) {
  if (charAt(pairing.identity->pin) == '\0' || !pairing.listener.listen(pairing.listener.context, pairing.port))
    return false;
  pairing.isOffered = true;
  pairing.offeredUntil = nowMs + OFFER_MS;
  return true;
}

void pass(Pairing& pairing, uint32_t nowMs) {
  if (!pairing.isOffered) return;
  if (isOver(pairing.offeredUntil, nowMs)) {
    pairing.isOffered = false;
    return ends(pairing);
  }
  if (!pairing.isOpen) {
    if (!pairing.listener.accept(pairing.listener.context)) return;
    pairing.isOpen = true;
    pairing.heardAt = nowMs;
  }
  reads(pairing, nowMs);
}

bool takesNews(Pairing& pairing) {
  const bool isNew = pairing.isNew;
  pairing.isNew = false;
  return isNew;
}

}  // namespace pairing
}  // namespace vestibule
