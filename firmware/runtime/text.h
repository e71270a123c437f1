// Bounded text, always ended; what does not fit is cut. Shared by the runtime and the wires.
#ifndef VESTIBULE_TEXT_H
#define VESTIBULE_TEXT_H

#include "tables.h"

namespace vestibule {

struct Text {
  char* at;
  size_t left;
};
void append(Text& text, Words words);
void append(Text& text, char character);
void appendNumber(Text& text, uint32_t number);
void appendSigned(Text& text, int32_t number);
void appendThousandths(Text& text, int32_t thousandths);
bool equals(const char* a, size_t length, Words b);
size_t lengthOf(const char* text);
/// -?[0-9]{1,5}, and nothing else
bool wholeNumber(const char* text, size_t length, int32_t& value);

}  // namespace vestibule

#endif
