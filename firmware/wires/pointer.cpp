#include "engine.h"

namespace vestibule {
namespace wires {

namespace {

constexpr size_t NOWHERE = static_cast<size_t>(-1);

// The document with an end that is no character of it.
char charOf(Piece text, size_t at) { return at < text.length ? text.at[at] : '\0'; }

size_t blanks(Piece text, size_t at) {
  for (char c = charOf(text, at); c == ' ' || c == '\t' || c == '\n' || c == '\r'; c = charOf(text, ++at)) {
  }
  return at;
}

// Behind the string that begins at a quote; at the end where it does not end.
size_t afterString(Piece text, size_t at) {
  for (at++; at < text.length; at++) {
    if (text.at[at] == '\\') {
      at++;
    } else if (text.at[at] == '"') {
      return at + 1;
    }
  }
  return text.length;
}

bool ends(char c) { return c == ',' || c == '}' || c == ']'; }

// Behind the value that begins here.
size_t afterValue(Piece text, size_t at) {
  size_t depth = 0;
  do {
    const char c = charOf(text, at);
    if (c == '"') {
      at = afterString(text, at);
    } else {
      if (c == '{' || c == '[') {
        depth++;
      } else if (c == '}' || c == ']') {
        if (depth == 0) return at;
        depth--;
      } else if (c == ',' && depth == 0) {
        return at;
      }
      at++;
    }
  } while (at < text.length && (depth > 0 || !ends(text.at[at])));
  return at;
}

// A step of the pointer: from behind its slash to the next one.
struct Step {
  Words at;
  size_t length;
};

// Does a step name this member? RFC 6901, 4: ~1 is a slash, ~0 a tilde.
bool names(Step step, Piece text, size_t from, size_t to) {
  size_t at = from;
  for (size_t i = 0; i < step.length; i++, at++) {
    char c = charAt(step.at + i);
    const char next = i + 1 < step.length ? charAt(step.at + i + 1) : '\0';
    if (c == '~' && (next == '0' || next == '1')) {
      c = next == '0' ? '~' : '/';
      i++;
    }
    if (at >= to || text.at[at] != c) return false;
  }
  return at == to;
}

size_t memberAt(Piece text, size_t at, Step step) {
  for (at = blanks(text, at + 1); charOf(text, at) == '"';) {
    const size_t end = afterString(text, at);
    const bool hit = names(step, text, at + 1, end - 1);
    at = blanks(text, end);
    if (charOf(text, at) != ':') return NOWHERE;
    at = blanks(text, at + 1);
    if (hit) return at;
    at = blanks(text, afterValue(text, at));
    if (charOf(text, at) != ',') return NOWHERE;
    at = blanks(text, at + 1);
  }
  return NOWHERE;
}

// 0, or up to four digits that do not begin with 0
bool placeOf(Step step, uint16_t& place) {
  place = 0;
  if (step.length == 0 || step.length > 4 || (step.length > 1 && charAt(step.at) == '0')) return false;
  for (size_t i = 0; i < step.length; i++) {
    const char c = charAt(step.at + i);
    if (c < '0' || c > '9') return false;
    place = static_cast<uint16_t>(place * 10 + (c - '0'));
  }
  return true;
}

size_t itemAt(Piece text, size_t at, Step step) {
  uint16_t left = 0;
  if (!placeOf(step, left)) return NOWHERE;
  for (at = blanks(text, at + 1); left > 0; left--) {
    at = blanks(text, afterValue(text, at));
    if (charOf(text, at) != ',') return NOWHERE;
    at = blanks(text, at + 1);
  }
  return charOf(text, at) == ']' ? NOWHERE : at;
}

bool scalarAt(Piece text, size_t at, Piece& value) {
  const char first = charOf(text, at);
  const bool isText = first == '"';
  if (first == '{' || first == '[') return false;
  if (isText) at++;
  size_t end = at;
  for (; end < text.length; end++) {
    const char c = text.at[end];
    if (isText ? c == '"' || c == '\\' : c == ' ' || c == '\t' || c == '\n' || c == '\r' || ends(c)) break;
  }
  // a string must end; anything else may end with the document
  if (isText && charOf(text, end) != '"') return false;
  value = Piece{text.at + at, end > at ? end - at : 0};
  return isText || (value.length > 0 && !same(value, WORDS("null")));
}

}  // namespace

bool valueAt(Piece document, Words pointer, Piece& value) {
  size_t at = blanks(document, 0);
  while (charAt(pointer) != '\0') {
    Step step = {pointer + 1, 0};
    while (charAt(step.at + step.length) != '\0' && charAt(step.at + step.length) != '/') step.length++;
    pointer = step.at + step.length;
    const char c = charOf(document, at);
    at = c == '{' ? memberAt(document, at, step) : c == '[' ? itemAt(document, at, step) : NOWHERE;
    if (at == NOWHERE) return false;
  }
  return scalarAt(document, at, value);
}

}  // namespace wires
}  // namespace vestibule
