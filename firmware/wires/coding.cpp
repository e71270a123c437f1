#include "engine.h"

namespace vestibule {
namespace wires {

static bool isDigit(char c) { return c >= '0' && c <= '9'; }

bool wholeNumber(Piece text, int32_t& value) {
  const bool negative = text.length > 0 && text.at[0] == '-';
  const size_t first = negative ? 1 : 0;
  if (text.length == first || text.length - first > 5) return false;
  value = 0;
  for (size_t i = first; i < text.length; i++) {
    if (!isDigit(text.at[i])) return false;
    value = value * 10 + (text.at[i] - '0');
  }
  if (negative) value = -value;
  return true;
}

void encode(const Coding& coding, const char* said, Text& out) {
  int32_t value = 0;
  const Piece piece = {said, lengthOf(said)};
  if (coding.form == Form::number || !wholeNumber(piece, value)) return append(out, piece);
  if (coding.form == Form::words) return vestibule::append(out, value == coding.min ? coding.off : coding.on);
  if (value < coding.min) value = coding.min;
  if (value > coding.max) value = coding.max;
  appendSigned(out, coding.least + (value - coding.min) * (coding.most - coding.least) / (coding.max - coding.min));
}

// A whole number as services that know only decimals write it, "1.0": what stands before the point.
static Piece withoutNoughts(Piece text) {
  size_t point = 0;
  while (point < text.length && text.at[point] != '.') point++;
  int32_t value = 0;
  if (point + 1 >= text.length || !wholeNumber(Piece{text.at, point}, value)) return text;
  for (size_t i = point + 1; i < text.length; i++) {
    if (text.at[i] != '0') return text;
  }
  return Piece{text.at, point};
}

void decode(const Coding& coding, Piece heard, Text& out) {
  if (coding.form == Form::words) {
    if (same(heard, coding.on)) return appendSigned(out, coding.max);
    if (same(heard, coding.off)) return appendSigned(out, coding.min);
    return vestibule::append(out, '?');
  }
  const Piece whole = withoutNoughts(heard);
  if (coding.form == Form::number) return append(out, whole);
  int32_t value = 0;
  if (!wholeNumber(whole, value) || value < coding.least || value > coding.most) return vestibule::append(out, '?');
  // upwards, so that what was encoded downwards comes back as it was
  const int32_t span = coding.most - coding.least;
  appendSigned(out, coding.min + ((value - coding.least) * (coding.max - coding.min) + span - 1) / span);
}

}  // namespace wires
}  // namespace vestibule
