#include "json.h"

#include <stdlib.h>
#include <string.h>

namespace bare {

namespace {

const char* blanks(const char* at, const char* end) {
  while (at < end && (*at == ' ' || *at == '\t' || *at == '\r' || *at == '\n')) at++;
  return at;
}

const char* afterString(const char* at, const char* end) {
  for (at++; at < end && *at != '"'; at++) {
    if (*at == '\\') at++;
  }
  return at < end ? at + 1 : end;
}

const char* afterValue(const char* at, const char* end) {
  if (at < end && *at == '"') return afterString(at, end);
  int depth = 0;
  for (; at < end; at++) {
    if (*at == '"') {
      at = afterString(at, end) - 1;
    } else if (*at == '{' || *at == '[') {
      depth++;
    } else if (*at == '}' || *at == ']') {
      if (depth == 0) return at;
      if (--depth == 0) return at + 1;
    } else if (*at == ',' && depth == 0) {
      return at;
    }
  }
  return end;
}

void putUtf8(char*& to, const char* last, unsigned code) {
  const auto put = [&](unsigned byte) {
    if (to < last) *to++ = static_cast<char>(byte);
  };
  if (code < 0x80) return put(code);
  if (code < 0x800) {
    put(0xC0 | code >> 6);
  } else {
    if (code < 0x10000) {
      put(0xE0 | code >> 12);
    } else {
      put(0xF0 | code >> 18);
      put(0x80 | (code >> 12 & 0x3F));
    }
    put(0x80 | (code >> 6 & 0x3F));
  }
  put(0x80 | (code & 0x3F));
}

unsigned hex4(const char* at) {
  char digits[5] = {at[0], at[1], at[2], at[3], '\0'};
  return static_cast<unsigned>(strtoul(digits, nullptr, 16));
}

// Behind an escape; what it stands for is put.
const char* escape(const char* at, char*& to, const char* last) {
  static const char FROM[] = "nrtbf";
  static const char TO[] = "\n\r\t\b\f";
  if (*at != 'u') {
    const char* known = strchr(FROM, *at);
    putUtf8(to, last, static_cast<unsigned char>(known ? TO[known - FROM] : *at));
    return at + 1;
  }
  unsigned code = hex4(at + 1);
  at += 5;
  if (code >= 0xD800 && code < 0xDC00 && at[0] == '\\' && at[1] == 'u') {
    code = 0x10000 + ((code - 0xD800) << 10) + (hex4(at + 2) - 0xDC00);
    at += 6;
  }
  putUtf8(to, last, code);
  return at;
}

}  // namespace

Json member(Json object, const char* name) {
  const char* end = object.at + object.length;
  const size_t length = strlen(name);
  if (object.at == nullptr || object.length == 0 || *object.at != '{') return {nullptr, 0};
  for (const char* at = blanks(object.at + 1, end); at < end && *at == '"';) {
    const char* key = at + 1;
    const char* after = afterString(at, end);
    const bool hit = static_cast<size_t>(after - 1 - key) == length && memcmp(key, name, length) == 0;
    at = blanks(after, end);
    if (at >= end || *at != ':') break;
    at = blanks(at + 1, end);
    const char* behind = afterValue(at, end);
    if (hit) return {at, static_cast<size_t>(behind - at)};
    at = blanks(behind, end);
    if (at >= end || *at != ',') break;
    at = blanks(at + 1, end);
  }
  return {nullptr, 0};
}

size_t textOf(Json value, char* buffer, size_t size) {
  char* to = buffer;
  const char* last = buffer + size - 1;
  if (value.at != nullptr && value.length >= 2 && *value.at == '"') {
    const char* end = value.at + value.length - 1;
    for (const char* at = value.at + 1; at < end;) {
      if (*at == '\\') {
        at = escape(at + 1, to, last);
      } else if (to < last) {
        *to++ = *at++;
      } else {
        at++;
      }
    }
  }
  *to = '\0';
  return static_cast<size_t>(to - buffer);
}

double numberOf(Json value) { return value.at == nullptr ? 0 : strtod(value.at, nullptr); }

bool isTrue(Json value) { return value.at != nullptr && *value.at == 't'; }

bool nextNumber(Json& list, double& number) {
  const char* end = list.at + list.length;
  const char* at = list.at;
  while (at < end && (*at == '[' || *at == ',' || *at == ' ')) at++;
  if (at >= end || *at == ']') return false;
  char* behind = nullptr;
  number = strtod(at, &behind);
  list = {behind, static_cast<size_t>(end - behind)};
  return behind != at;
}

}  // namespace bare
