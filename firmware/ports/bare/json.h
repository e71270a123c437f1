// The small JSON objects of trace lines, read where they stand, without memory of their own: for programs that have no
// standard library of C++.
#ifndef VESTIBULE_BARE_JSON_H
#define VESTIBULE_BARE_JSON_H

#include <stddef.h>

namespace bare {

/// A value as it is written; `at` null: there is none.
struct Json {
  const char* at;
  size_t length;
};

/// The value of a member of an object (RFC 8259).
Json member(Json object, const char* name);
/// A string without its quotes and escapes, ended; cut where it is longer than the buffer. Gives its length.
size_t textOf(Json value, char* buffer, size_t size);
double numberOf(Json value);
bool isTrue(Json value);
/// The items of a list of numbers, one after the other; false: there is none left.
bool nextNumber(Json& list, double& number);

}  // namespace bare

#endif
