// The time of day by SNTP (RFC 4330), as far as a schedule needs it: what is asked, what an answer says, and which
// local week time that is. No I/O.
#ifndef VESTIBULE_SNTP_H
#define VESTIBULE_SNTP_H

#include <stddef.h>
#include <stdint.h>

namespace vestibule {
namespace sntp {

constexpr size_t PACKET = 48;
constexpr uint16_t PORT = 123;

/// When clocks go forward and back. The rules are those of law in most places that have one (common practice).
enum class Summer : uint8_t {
  none,
  lastSundays,   ///< from the last Sunday of March to the last of October, both at 01:00 UTC
  secondSunday,  ///< from the second Sunday of March to the first of November, both at 02:00 local time
};

/// A request; `mark` comes back in its answer, so that no other is taken for it.
void request(uint8_t (&packet)[PACKET], uint32_t mark);
/// Seconds since 1970 (UTC) of an answer; false: it is none, or not of this request, or the server knows no time.
bool readAnswer(const uint8_t* packet, size_t size, uint32_t mark, uint32_t& seconds);
/// ms since Monday 00:00, local time.
uint32_t weekMs(uint32_t seconds, int16_t offsetMinutes, Summer summer);

}  // namespace sntp
}  // namespace vestibule

#endif
