#include "sntp.h"

namespace vestibule {
namespace sntp {

namespace {

// 1900 to 1970, with 17 leap days
constexpr uint32_t UNIX_FROM_1900 = 2208988800u;
constexpr uint32_t DAY_S = 86400;

uint32_t wordAt(const uint8_t* at) {
  return static_cast<uint32_t>(at[0]) << 24 | static_cast<uint32_t>(at[1]) << 16 | static_cast<uint32_t>(at[2]) << 8 |
         at[3];
}

void putWord(uint8_t* at, uint32_t word) {
  for (uint8_t i = 0; i < 4; i++) at[i] = static_cast<uint8_t>(word >> (24 - 8 * i));
}

bool isLeap(uint16_t year) { return (year % 4 == 0 && year % 100 != 0) || year % 400 == 0; }

// Days since 1970 of the first of a month, from 1; Gregorian calendar (ISO 8601).
uint32_t daysTo(uint16_t year, uint8_t month) {
  static const uint16_t BEFORE[] = {0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334};
  uint32_t days = BEFORE[month - 1] + (month > 2 && isLeap(year) ? 1 : 0);
  for (uint16_t past = 1970; past < year; past++) days += isLeap(past) ? 366 : 365;
  return days;
}

uint16_t yearOf(uint32_t seconds) {
  uint16_t year = 1970;
  while (daysTo(static_cast<uint16_t>(year + 1), 1) * DAY_S <= seconds && year < 2105) year++;
  return year;
}

// 0 is Monday; 1 January 1970 was a Thursday.
uint8_t weekday(uint32_t days) { return static_cast<uint8_t>((days + 3) % 7); }

// Days since 1970 of a month's n-th Sunday, from 1.
uint32_t sunday(uint16_t year, uint8_t month, uint8_t n) {
  const uint32_t first = daysTo(year, month);
  return first + (6u - weekday(first)) + 7u * (n - 1u);
}

// Of the last Sunday: the first day of the next month is at most seven days behind it. March and October have 31 days.
uint32_t lastSunday(uint16_t year, uint8_t month) {
  const uint32_t next = daysTo(year, month) + 31;
  return next - 1 - (weekday(next - 1) + 1u) % 7;
}

bool isSummer(uint32_t seconds, int32_t offsetS, Summer summer) {
  const uint16_t year = yearOf(seconds);
  if (summer == Summer::lastSundays)
    return seconds >= lastSunday(year, 3) * DAY_S + 3600 && seconds < lastSunday(year, 10) * DAY_S + 3600;
  if (summer != Summer::secondSunday) return false;
  // 02:00 of standard time in March, 02:00 of summer time in November
  const int64_t local = static_cast<int64_t>(seconds) + offsetS;
  const int64_t from = static_cast<int64_t>(sunday(year, 3, 2)) * DAY_S + 7200;
  const int64_t to = static_cast<int64_t>(sunday(year, 11, 1)) * DAY_S + 3600;
  return local >= from && local < to;
}

}  // namespace

void request(uint8_t (&packet)[PACKET], uint32_t mark) {
  for (uint8_t& byte : packet) byte = 0;
  packet[0] = 0x23;            // 4: no warning, version 4, client
  putWord(packet + 40, mark);  // 5: a transmit time of our own, which comes back as the originate time
}

bool readAnswer(const uint8_t* packet, size_t size, uint32_t mark, uint32_t& seconds) {
  if (size < PACKET) return false;
  // 5: a server's answer; a leap indicator of 3 or a stratum of 0 says that it knows no time itself
  if ((packet[0] & 0x07) != 4 || (packet[0] >> 6) == 3 || packet[1] == 0 || packet[1] > 15) return false;
  if (wordAt(packet + 24) != mark) return false;
  const uint32_t since1900 = wordAt(packet + 40);
  if (since1900 == 0 && wordAt(packet + 44) == 0) return false;
  // 3: without the highest bit it is of the era that begins in 2036
  seconds = since1900 - UNIX_FROM_1900;
  return true;
}

uint32_t weekMs(uint32_t seconds, int16_t offsetMinutes, Summer summer) {
  const int32_t offsetS = static_cast<int32_t>(offsetMinutes) * 60;
  const int64_t local = static_cast<int64_t>(seconds) + offsetS + (isSummer(seconds, offsetS, summer) ? 3600 : 0);
  const uint32_t days = static_cast<uint32_t>(local / DAY_S);
  const uint32_t rest = static_cast<uint32_t>(local % DAY_S);
  return (weekday(days) * DAY_S + rest) * 1000u;
}

}  // namespace sntp
}  // namespace vestibule
