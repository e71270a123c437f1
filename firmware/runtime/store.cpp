#include "inside.h"

namespace vestibule {

bool levelIsStored(const Image& image, uint8_t channel) {
  const Channel* table = image.channels + channel;
  const PowerUp powerUp = row(&table->powerUp);
  return powerUp == PowerUp::last || (powerUp >= PowerUp::service && row(&table->otherwiseLast));
}

bool isStored(const Image& image, uint8_t channel) {
  return levelIsStored(image, channel) || keepsLastLevel(row(&image.channels[channel].kind));
}

void storeSoon(Device& device) { arm(device, slotOf(*device.image, Slot::store), device.image->storeMs); }

// Writes levels, last levels and modes, if they differ from what is stored.
void storeDue(Device& device) {
  bool differs = !device.hasStored;
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    const Channel* table = device.image->channels + i;
    const ChannelState& channel = device.channels[i];
    const uint8_t level = levelIsStored(*device.image, i) ? channel.level : 0;
    if (level != channel.storedLevel) differs = true;
    if (keepsLastLevel(row(&table->kind)) && channel.lastLevel != channel.storedLast) differs = true;
    if (row(&table->ruled) && channel.isAuto != channel.storedAuto) differs = true;
  }
  if (!differs) return;
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    ChannelState& channel = device.channels[i];
    channel.storedLevel = levelIsStored(*device.image, i) ? channel.level : 0;
    channel.storedLast = channel.lastLevel;
    channel.storedAuto = channel.isAuto;
  }
  device.hasStored = true;
  device.port->store(device.port->context);
}

// CRC-16/CCITT-FALSE (polynomial 0x1021, initial 0xffff; "123456789" gives 0x29b1), a byte at a time without a table. A
// bit at a time it reads: crc ^= byte << 8, then eight times crc = crc & 0x8000 ? crc << 1 ^ 0x1021 : crc << 1.
uint16_t checkSum(uint16_t crc, uint8_t byte) {
  crc = static_cast<uint16_t>((crc >> 8) | (crc << 8));
  crc = static_cast<uint16_t>(crc ^ byte);
  crc = static_cast<uint16_t>(crc ^ ((crc & 0xff) >> 4));
  crc = static_cast<uint16_t>(crc ^ (crc << 12));
  return static_cast<uint16_t>(crc ^ ((crc & 0xff) << 5));
}

// A record: number (2 bytes, it grows by one each time), level, last level and mode of each channel (3), CRC (2), and a
// last byte that says that it is whole: the number of channels. That byte is the first to go and the last to come, so
// that a record cut anywhere is no record, whatever its CRC would say; the CRC is for bytes that were worn or never
// written.
static const uint8_t NOT_WHOLE = 0xff;

static bool slotIsWhole(const Memory& memory, size_t base, uint8_t channels, uint16_t& number) {
  const size_t size = recordBytes(channels);
  if (memory.read(memory.context, base + size - 1) != channels) return false;
  uint16_t crc = 0xffff;
  for (size_t i = 0; i + 3 < size; i++) crc = checkSum(crc, memory.read(memory.context, base + i));
  const uint16_t low = memory.read(memory.context, base + size - 3);
  const uint16_t high = memory.read(memory.context, base + size - 2);
  if (crc != static_cast<uint16_t>(low | (high << 8))) return false;
  number = static_cast<uint16_t>(memory.read(memory.context, base) |
                                 (static_cast<uint16_t>(memory.read(memory.context, base + 1)) << 8));
  return true;
}

// The slot with the newest whole record; 2: neither is whole.
static uint8_t newestSlot(const Memory& memory, uint8_t channels, uint16_t& number) {
  uint16_t first = 0;
  uint16_t second = 0;
  const bool hasFirst = slotIsWhole(memory, 0, channels, first);
  const bool hasSecond = slotIsWhole(memory, recordBytes(channels), channels, second);
  if (!hasFirst && !hasSecond) return 2;
  // record numbers wrap; the newer is ahead by less than half of their range
  const uint8_t slot = !hasFirst ? 1 : !hasSecond ? 0 : static_cast<int16_t>(second - first) > 0 ? 1 : 0;
  number = slot == 0 ? first : second;
  return slot;
}

void saveRecord(const Device& device, const Memory& memory) {
  const uint8_t channels = device.image->channelCount;
  uint16_t number = 0;
  const uint8_t newest = newestSlot(memory, channels, number);
  size_t at = newest == 0 ? recordBytes(channels) : 0;
  memory.write(memory.context, at + recordBytes(channels) - 1, NOT_WHOLE);
  number++;
  uint16_t crc = 0xffff;
  const auto put = [&](uint8_t byte) {
    crc = checkSum(crc, byte);
    memory.write(memory.context, at++, byte);
  };
  put(static_cast<uint8_t>(number));
  put(static_cast<uint8_t>(number >> 8));
  for (uint8_t i = 0; i < channels; i++) {
    put(device.channels[i].storedLevel);
    put(device.channels[i].storedLast);
    put(device.channels[i].storedAuto ? 1 : 0);
  }
  memory.write(memory.context, at++, static_cast<uint8_t>(crc));
  memory.write(memory.context, at++, static_cast<uint8_t>(crc >> 8));
  memory.write(memory.context, at, channels);
}

bool loadRecord(Device& device, const Memory& memory) {
  const uint8_t channels = device.image->channelCount;
  uint16_t number = 0;
  const uint8_t slot = newestSlot(memory, channels, number);
  if (slot == 2) return false;
  size_t at = slot * recordBytes(channels) + 2;
  for (uint8_t i = 0; i < channels; i++) {
    const uint8_t top = row(&device.image->channels[i].top);
    const uint8_t level = memory.read(memory.context, at++);
    const uint8_t last = memory.read(memory.context, at++);
    device.channels[i].storedLevel = level <= top ? level : top;
    device.channels[i].storedLast = last <= top ? last : top;
    device.channels[i].storedAuto = memory.read(memory.context, at++) != 0;
  }
  device.hasStored = true;
  return true;
}

}  // namespace vestibule
