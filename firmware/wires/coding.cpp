#include "engine.h"

namespace vestibule {
namespace wires {

static bool wholeNumber(Piece text, int32_t& value) { return vestibule::wholeNumber(text.at, text.length, value); }

void encode(const Coding& coding, const char* said, Text& out) {
  int32_t value = 0;
  const Piece piece = {said, lengthOf(said)};
  if (coding.form == Form::number || !wholeNumber(piece, value)) return append(out, piece);
  if (coding.form == Form::words) return vestibule::append(out, value == coding.min ? coding.off : coding.on);
  if (value < coding.min) value = coding.min;
  if (value > coding.max) value = coding.max;
  const int32_t span = static_cast<int32_t>(coding.most) - coding.least;
  appendSigned(out, coding.least + (value - coding.min) * span / (static_cast<int32_t>(coding.max) - coding.min));
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

void decodeNumber(Piece heard, Text& out) { append(out, withoutNoughts(heard)); }

void decode(const Coding& coding, Piece heard, Text& out) {
  if (coding.form == Form::words) {
    if (same(heard, coding.on)) return appendSigned(out, coding.max);
    if (same(heard, coding.off)) return appendSigned(out, coding.min);
    return vestibule::append(out, '?');
  }
  if (coding.form == Form::number) return decodeNumber(heard, out);
  const Piece whole = withoutNoughts(heard);
  int32_t value = 0;
  if (!wholeNumber(whole, value) || value < coding.least || value > coding.most) return vestibule::append(out, '?');
  // upwards, so that what was encoded downwards comes back as it was
  const int32_t span = static_cast<int32_t>(coding.most) - coding.least;
  const int32_t own = static_cast<int32_t>(coding.max) - coding.min;
  appendSigned(out, coding.min + ((value - coding.least) * own + span - 1) / span);
}

}  // namespace wires
}  // namespace vestibule
