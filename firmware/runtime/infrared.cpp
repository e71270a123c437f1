// Frames of infrared remotes from durations: the whole-number arithmetic of core/infrared, where each constant has its
// source.
#include "inside.h"

namespace vestibule {

namespace {

struct Fit {
  int32_t sum;
  int16_t count;
  int16_t stretch;
  int16_t tolerance;
};

const int32_t MEAN_TOLERANCE = 100;
const int32_t GOOD_ENOUGH = 30;
const int16_t MOST_STRETCH = 140;
const int16_t LEAST_STRETCH = -60;
const int16_t TRIED[] = {0, 30, 60, 90, 120, -30};
const uint16_t FRAME_GAP_US = 5300;
const uint16_t LEAST_US = 100;
const size_t LEAST_DURATIONS = 8;

Fit startFit(int32_t stretch, int16_t tolerance) { return Fit{0, 0, static_cast<int16_t>(stretch), tolerance}; }

int32_t clampStretch(int32_t stretch) {
  return stretch > MOST_STRETCH ? MOST_STRETCH : stretch < LEAST_STRETCH ? LEAST_STRETCH : stretch;
}

int32_t plainOf(const Fit& fit, int32_t duration, bool mark) {
  return mark ? duration - fit.stretch : duration + fit.stretch;
}

/// A nominal duration; 1000 divided by it in steps of 2^-20, rounded up; and up to which distance those are exact
/// (permille).
struct Nominal {
  uint16_t us;
  uint16_t exactBelow;
  uint32_t steps;
};
constexpr Nominal nominalOf(uint16_t us) {
  return Nominal{us, static_cast<uint16_t>((1ul << 19) / us), static_cast<uint32_t>(((1000ul << 20) + us - 1) / us)};
}

// apart * 1000 / nominal, whole. A division costs the 8-bit core some 700 cycles, and a frame may ask for 200 of them.
// With steps too large by less than 1, apart * steps / 2^20 is too large by less than apart / 2^20; whole parts come
// out the same while that is below 1 / nominal, so while apart * nominal < 2^20. Half of that also keeps the product
// within 32 bits.
uint32_t permille(uint32_t apart, const Nominal& nominal) {
  // shifted in two steps, of which the first costs the 8-bit core nothing
  if (apart < nominal.exactBelow)
    return static_cast<uint16_t>(static_cast<uint16_t>((apart * nominal.steps) >> 16) >> 4);
  return apart * 1000 / nominal.us;
}

bool take(Fit& fit, int32_t duration, const Nominal& nominal, bool mark) {
  const int32_t apart = plainOf(fit, duration, mark) - nominal.us;
  const int32_t deviation = static_cast<int32_t>(permille(static_cast<uint32_t>(apart < 0 ? -apart : apart), nominal));
  fit.sum += deviation;
  fit.count++;
  return deviation <= fit.tolerance;
}

bool fitsOnTheWhole(const Fit& fit) { return fit.sum <= fit.count * MEAN_TOLERANCE; }
int32_t meanOf(const Fit& fit) { return fit.count == 0 ? 0 : fit.sum / fit.count; }

bool near(int32_t duration, const Nominal& nominal, int32_t tolerance) {
  const int32_t apart = duration - nominal.us;
  return (apart < 0 ? -apart : apart) * 1000 <= nominal.us * tolerance;
}

// ---- NEC ----

enum class Found : uint8_t { no, yes, refused };

Found decodeNec(const uint16_t* list, size_t count, Frame& frame, int32_t& mean) {
  constexpr Nominal LEAD_MARK = nominalOf(9000), LEAD_SPACE = nominalOf(4500), REPEAT_SPACE = nominalOf(2250),
                    MARK = nominalOf(563), ONE = nominalOf(1688);
  const int32_t BITS = 32, LEAD_TOLERANCE = 160;
  const int16_t TOLERANCE = 300;
  if (count < 3 || !near(list[0], LEAD_MARK, LEAD_TOLERANCE)) return Found::no;
  if (count == 3) {
    Fit fit = startFit(clampStretch(list[2] - MARK.us), TOLERANCE);
    if (!near(list[1], REPEAT_SPACE, LEAD_TOLERANCE) || !take(fit, list[2], MARK, true)) return Found::no;
    take(fit, list[0], LEAD_MARK, true);
    take(fit, list[1], REPEAT_SPACE, false);
    frame = Frame{Protocol::necRepeat, 0, 0, NO_TOGGLE};
    mean = meanOf(fit);
    return Found::yes;
  }
  if (count != 2 + 2 * BITS + 1 || !near(list[1], LEAD_SPACE, LEAD_TOLERANCE)) return Found::no;
  int32_t marks = 0;
  for (size_t at = 2; at < count; at += 2) marks += list[at];
  Fit fit = startFit(clampStretch(marks / (BITS + 1) - MARK.us), TOLERANCE);
  take(fit, list[0], LEAD_MARK, true);
  take(fit, list[1], LEAD_SPACE, false);
  uint8_t bytes[4] = {0, 0, 0, 0};
  for (uint8_t bit = 0; bit < BITS; bit++) {
    const int32_t space = list[3 + 2 * bit];
    // halfway between 563 and 1688 is 1125.5: whole numbers compare the same way with 1125
    const bool one = space + fit.stretch > 1125;
    if (!take(fit, list[2 + 2 * bit], MARK, true)) return Found::no;
    if (!take(fit, space, one ? ONE : MARK, false)) return Found::no;
    if (one) bytes[bit >> 3] = static_cast<uint8_t>(bytes[bit >> 3] | (1u << (bit & 7)));
  }
  if (!take(fit, list[count - 1], MARK, true) || !fitsOnTheWhole(fit)) return Found::no;
  if ((bytes[2] ^ bytes[3]) != 0xff) return Found::refused;
  if ((bytes[0] ^ bytes[1]) == 0xff) {
    frame = Frame{Protocol::nec, bytes[0], bytes[2], NO_TOGGLE};
  } else {
    frame = Frame{Protocol::necExt, static_cast<uint16_t>(bytes[0] | (bytes[1] << 8)), bytes[2], NO_TOGGLE};
  }
  mean = meanOf(fit);
  return Found::yes;
}

// ---- biphase ----

// Durations to half-bit levels (1: mark), as bits of `levels`, the first in bit 0; false: no number of units, or not
// `wanted` halves.
bool unitsOf(const uint16_t* list, size_t from, size_t to, Fit& fit, const Nominal* nominal, uint8_t most,
             uint8_t wanted, uint8_t* levels) {
  uint8_t count = 0;
  for (size_t at = from; at < to; at++) {
    const bool mark = ((at - from) & 1) == 0;
    const int32_t plain = plainOf(fit, list[at], mark);
    uint8_t units = 1;
    while (units < most && plain * 2 > static_cast<int32_t>(nominal[units].us) + nominal[units + 1].us) units++;
    if (!take(fit, list[at], nominal[units], mark)) return false;
    if (count + units > wanted) return false;
    for (uint8_t k = 0; k < units; k++) levels[count++] = mark ? 1 : 0;
  }
  if (count == wanted - 1) levels[count++] = 0;
  return count == wanted;
}

bool decodeRc5(const uint16_t* list, size_t count, Frame& frame, int32_t& mean) {
  static const Nominal UNITS[] = {{0, 0, 0}, nominalOf(889), nominalOf(1778)};
  const uint8_t BITS = 14;
  const int16_t TOLERANCE = 200;
  uint8_t halves[2 * 14];
  if (list[0] < 600 || list[0] > 2400 || count < 13 || count > 27) return false;
  bool found = false;
  for (const int16_t stretch : TRIED) {
    Fit fit = startFit(stretch, TOLERANCE);
    if (!unitsOf(list, 0, count, fit, UNITS, 2, 2 * BITS - 1, halves) || !fitsOnTheWhole(fit)) continue;
    uint16_t bits = 0;
    bool whole = true;
    for (uint8_t bit = 0; bit < BITS; bit++) {
      const uint8_t a = bit == 0 ? 0 : halves[2 * bit - 1];
      const uint8_t b = halves[2 * bit];
      if (a == b) whole = false;
      bits = static_cast<uint16_t>((bits << 1) | b);
    }
    if (!whole || (found && meanOf(fit) >= mean)) continue;
    frame = Frame{Protocol::rc5, static_cast<uint16_t>((bits >> 6) & 0x1f),
                  static_cast<uint16_t>((bits & 0x3f) | ((bits & 0x1000) != 0 ? 0 : 0x40)),
                  static_cast<uint8_t>((bits >> 11) & 1)};
    mean = meanOf(fit);
    found = true;
    if (mean <= GOOD_ENOUGH) break;
  }
  return found;
}

// Toggle, address and command as 17 bits; false: not mode 0, or halves that are alike.
bool readRc6(const uint8_t* half, uint32_t& bits) {
  if (half[0] != 1 || half[1] != 0) return false;
  for (uint8_t bit = 0; bit < 3; bit++) {
    if (half[2 + 2 * bit] != 0 || half[3 + 2 * bit] != 1) return false;
  }
  if (half[8] != half[9] || half[10] != half[11] || half[8] == half[10]) return false;
  bits = half[8];
  for (uint8_t bit = 0; bit < 16; bit++) {
    const uint8_t a = half[12 + 2 * bit];
    if (a == half[13 + 2 * bit]) return false;
    bits = (bits << 1) | a;
  }
  return true;
}

bool decodeRc6(const uint16_t* list, size_t count, Frame& frame, int32_t& mean) {
  static const Nominal UNITS[] = {{0, 0, 0}, nominalOf(444), nominalOf(889), nominalOf(1333)};
  constexpr Nominal LEAD_MARK = nominalOf(2667), LEAD_SPACE = nominalOf(889);
  const uint8_t HALVES = 44;
  const int16_t TOLERANCE = 220;
  uint8_t half[44];
  if (count < 24 || count > 2 + HALVES || !near(list[0], LEAD_MARK, 150)) return false;
  bool found = false;
  for (const int16_t stretch : TRIED) {
    Fit fit = startFit(stretch, TOLERANCE);
    if (!take(fit, list[0], LEAD_MARK, true) || !take(fit, list[1], LEAD_SPACE, false)) continue;
    if (!unitsOf(list, 2, count, fit, UNITS, 3, HALVES, half) || !fitsOnTheWhole(fit)) continue;
    uint32_t bits = 0;
    if (!readRc6(half, bits) || (found && meanOf(fit) >= mean)) continue;
    frame = Frame{Protocol::rc6, static_cast<uint16_t>((bits >> 8) & 0xff), static_cast<uint16_t>(bits & 0xff),
                  static_cast<uint8_t>((bits >> 16) & 1)};
    mean = meanOf(fit);
    found = true;
    if (mean <= GOOD_ENOUGH) break;
  }
  return found;
}

// ---- SIRC ----

bool decodeSirc(const uint16_t* list, size_t count, Frame& frame, int32_t& mean) {
  constexpr Nominal LEAD = nominalOf(2400), SHORT = nominalOf(600), LONG = nominalOf(1200);
  const int16_t TOLERANCE = 220;
  if (count != 25 && count != 31 && count != 41) return false;
  if (!near(list[0], LEAD, 140)) return false;
  const uint8_t bits = static_cast<uint8_t>((count - 1) / 2);
  int32_t spaces = 0;
  for (size_t at = 1; at < count; at += 2) spaces += list[at];
  Fit fit = startFit(clampStretch(SHORT.us - spaces / bits), TOLERANCE);
  if (!take(fit, list[0], LEAD, true)) return false;
  uint32_t value = 0;
  for (uint8_t bit = 0; bit < bits; bit++) {
    const int32_t mark = list[2 + 2 * bit];
    const bool one = mark - fit.stretch > (SHORT.us + LONG.us) / 2;
    if (!take(fit, list[1 + 2 * bit], SHORT, false) || !take(fit, mark, one ? LONG : SHORT, true)) return false;
    if (one) value |= 1ul << bit;
  }
  if (!fitsOnTheWhole(fit)) return false;
  frame = Frame{bits == 12   ? Protocol::sirc12
                : bits == 15 ? Protocol::sirc15
                             : Protocol::sirc20,
                static_cast<uint16_t>(value >> 7), static_cast<uint16_t>(value & 0x7f), NO_TOGGLE};
  mean = meanOf(fit);
  return true;
}

// FNV-1a over how each duration compares with the one two before: shorter, alike, longer. Half of the stretch that a
// receiver may have is put back; a leader is no part of the code.
uint32_t hashOf(const uint16_t* list, size_t count) {
  uint32_t hash = 0x811c9dc5ul;
  size_t at = list[0] > 5ul * list[2] ? 4 : 2;
  for (; at < count; at++) {
    const int8_t stretch = at & 1 ? 50 : -50;
    const uint32_t before = list[at - 2] + stretch;
    const uint32_t now = list[at] + stretch;
    const uint32_t word = now * 100 > before * 127 ? 2 : before * 100 > now * 127 ? 0 : 1;
    hash = (hash ^ word) * 0x01000193ul;
  }
  return (hash ^ static_cast<uint32_t>(count)) * 0x01000193ul;
}

}  // namespace

bool decodeFrame(const uint16_t* list, size_t count, Frame& frame) {
  int32_t best = 0;
  const Found nec = decodeNec(list, count, frame, best);
  if (nec == Found::refused) return false;
  bool found = nec == Found::yes;
  bool (*const decoders[])(const uint16_t*, size_t, Frame&, int32_t&) = {decodeRc5, decodeRc6, decodeSirc};
  for (const auto decode : decoders) {
    Frame other;
    int32_t mean = 0;
    if (!decode(list, count, other, mean) || (found && mean >= best)) continue;
    frame = other;
    best = mean;
    found = true;
  }
  if (found) return true;
  if (count < LEAST_DURATIONS) return false;
  const uint32_t hash = hashOf(list, count);
  frame = Frame{Protocol::unknown, static_cast<uint16_t>(hash >> 16), static_cast<uint16_t>(hash), NO_TOGGLE};
  return true;
}

// The frame that begins at `from`; moves `from` behind it and its quiet. False: nothing was decoded there.
bool nextFrame(const uint16_t* list, size_t count, size_t& from, Frame& frame) {
  const size_t start = from;
  size_t to = start + 1;
  while (to + 1 < count && list[to] < FRAME_GAP_US) to += 2;
  from = to + 1;
  for (size_t at = start; at < to; at++) {
    if (list[at] < LEAST_US) return false;
  }
  return decodeFrame(list + start, to - start, frame);
}

}  // namespace vestibule
