// Lines of a head (RFC 9110, 5), as the client and the server of requests read them.
#ifndef VESTIBULE_HEAD_H
#define VESTIBULE_HEAD_H

#include <stdint.h>

namespace vestibule {
namespace http {

/// What stands behind a name, which is given in small letters and read in either case (RFC 9110, 5.1); null: the line
/// bears another.
const char* valueOf(const char* line, const char* name);
/// A length in digits (RFC 9110, 8.6); false: it is none, or beyond all reason.
bool readLength(const char* value, uint32_t& length);

}  // namespace http
}  // namespace vestibule

#endif
