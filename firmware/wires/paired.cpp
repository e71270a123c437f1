#include "paired.h"

namespace vestibule {
namespace pairing {

namespace {

constexpr uint8_t WHOLE = 0x5a;
constexpr uint8_t NOT_WHOLE = 0xff;
constexpr uint8_t PAIRED = 1;
constexpr uint8_t FORGOTTEN = 2;

/// Bytes of a slot in their order, with a sum over them; reading and writing walk the same way.
template <typename Byte>
struct Walk {
  const Memory& memory;
  size_t at;
  uint16_t sum;
  Byte byte;

  uint8_t next(uint8_t value) {
    value = byte(memory, at++, value);
    sum = checkSum(sum, value);
    return value;
  }
  void text(char* text, size_t size) {
    for (size_t i = 0; i + 1 < size; i++) text[i] = static_cast<char>(next(static_cast<uint8_t>(text[i])));
    text[size - 1] = '\0';
  }
  uint16_t number(uint16_t number) {
    const uint8_t low = next(static_cast<uint8_t>(number));
    return static_cast<uint16_t>(low | next(static_cast<uint8_t>(number >> 8)) << 8);
  }
  void all(Settings& settings, uint16_t& count) {
    count = number(count);
    const uint8_t how = next(settings.isForgotten ? FORGOTTEN : settings.isPaired ? PAIRED : 0);
    settings.isForgotten = how == FORGOTTEN;
    settings.isPaired = how == PAIRED;
    text(settings.network, NAME_SIZE);
    text(settings.secret, SECRET_SIZE);
    for (LinkSettings& link : settings.links) {
      text(link.address, SECRET_SIZE);
      link.port = number(link.port);
      text(link.user, SECRET_SIZE);
      text(link.password, SECRET_SIZE);
    }
  }
};

struct Reads {
  uint8_t operator()(const Memory& memory, size_t at, uint8_t) const { return memory.read(memory.context, at); }
};
struct Writes {
  uint8_t operator()(const Memory& memory, size_t at, uint8_t value) const {
    memory.write(memory.context, at, value);
    return value;
  }
};

bool readSlot(Settings& settings, uint16_t& count, const Memory& memory, size_t base) {
  if (memory.read(memory.context, base) != WHOLE) return false;
  Walk<Reads> walk = {memory, base + 1, 0xffff, Reads()};
  walk.all(settings, count);
  const uint16_t sum = walk.sum;
  return walk.number(0) == sum;
}

}  // namespace

bool load(Settings& settings, const Memory& memory, size_t at) {
  uint16_t first = 0;
  uint16_t second = 0;
  const bool hasSecond = readSlot(settings, second, memory, at + SLOT_BYTES);
  const bool hasFirst = readSlot(settings, first, memory, at);
  if (!hasFirst && !hasSecond) {
    settings = Settings();
    return false;
  }
  // counts wrap; the newer is ahead by less than half of their range
  if (!hasFirst || (hasSecond && static_cast<int16_t>(second - first) > 0))
    readSlot(settings, second, memory, at + SLOT_BYTES);
  return true;
}

void save(const Settings& settings, const Memory& memory, size_t at) {
  Settings old;
  uint16_t first = 0;
  uint16_t second = 0;
  const bool hasFirst = readSlot(old, first, memory, at);
  const bool hasSecond = readSlot(old, second, memory, at + SLOT_BYTES);
  const bool firstIsNewest = hasFirst && (!hasSecond || static_cast<int16_t>(first - second) >= 0);
  const size_t base = firstIsNewest ? at + SLOT_BYTES : at;
  uint16_t count = static_cast<uint16_t>((firstIsNewest ? first : hasSecond ? second : 0) + 1);
  memory.write(memory.context, base, NOT_WHOLE);
  Walk<Writes> walk = {memory, base + 1, 0xffff, Writes()};
  old = settings;
  walk.all(old, count);
  walk.number(walk.sum);
  memory.write(memory.context, base, WHOLE);
}

}  // namespace pairing
}  // namespace vestibule
