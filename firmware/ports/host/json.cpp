#include "json.h"

#include <cstdlib>

namespace host {

namespace {

struct Reader {
  const std::string& text;
  size_t at;

  explicit Reader(const std::string& whole) : text(whole), at(0) {}

  void blanks() {
    while (at < text.size() && (text[at] == ' ' || text[at] == '\t' || text[at] == '\r' || text[at] == '\n')) at++;
  }

  bool take(char c) {
    blanks();
    if (at >= text.size() || text[at] != c) return false;
    at++;
    return true;
  }

  bool word(const char* expected) {
    const std::string w(expected);
    if (text.compare(at, w.size(), w) != 0) return false;
    at += w.size();
    return true;
  }

  static void utf8(std::string& out, unsigned code) {
    if (code < 0x80) {
      out += static_cast<char>(code);
    } else if (code < 0x800) {
      out += static_cast<char>(0xC0 | code >> 6);
      out += static_cast<char>(0x80 | (code & 0x3F));
    } else if (code < 0x10000) {
      out += static_cast<char>(0xE0 | code >> 12);
      out += static_cast<char>(0x80 | (code >> 6 & 0x3F));
      out += static_cast<char>(0x80 | (code & 0x3F));
    } else {
      out += static_cast<char>(0xF0 | code >> 18);
      out += static_cast<char>(0x80 | (code >> 12 & 0x3F));
      out += static_cast<char>(0x80 | (code >> 6 & 0x3F));
      out += static_cast<char>(0x80 | (code & 0x3F));
    }
  }

  bool hex4(unsigned& code) {
    if (at + 4 > text.size()) return false;
    char* end = nullptr;
    const std::string digits = text.substr(at, 4);
    code = static_cast<unsigned>(std::strtoul(digits.c_str(), &end, 16));
    at += 4;
    return end == digits.c_str() + 4;
  }

  bool string(std::string& out) {
    if (!take('"')) return false;
    while (at < text.size() && text[at] != '"') {
      char c = text[at++];
      if (c != '\\') {
        out += c;
        continue;
      }
      if (at >= text.size()) return false;
      c = text[at++];
      switch (c) {
        case 'n': out += '\n'; break;
        case 't': out += '\t'; break;
        case 'r': out += '\r'; break;
        case 'b': out += '\b'; break;
        case 'f': out += '\f'; break;
        case 'u': {
          unsigned code = 0;
          if (!hex4(code)) return false;
          if (code >= 0xD800 && code < 0xDC00 && text.compare(at, 2, "\\u") == 0) {
            at += 2;
            unsigned low = 0;
            if (!hex4(low)) return false;
            code = 0x10000 + ((code - 0xD800) << 10) + (low - 0xDC00);
          }
          utf8(out, code);
          break;
        }
        default: out += c;
      }
    }
    return take('"');
  }

  size_t digitsFrom(size_t from) const {
    size_t end = from;
    while (end < text.size() && text[end] >= '0' && text[end] <= '9') end++;
    return end - from;
  }

  /// Length of the number that begins here, by the grammar of RFC 8259, 6; 0: none. strtod alone takes more than that:
  /// nan, infinity, 0x10, a leading plus.
  size_t numberLength() const {
    size_t end = at;
    const auto is = [&](char c) { return end < text.size() && text[end] == c; };
    if (is('-')) end++;
    const size_t whole = digitsFrom(end);
    if (whole == 0 || (whole > 1 && is('0'))) return 0;
    end += whole;
    if (is('.')) {
      const size_t decimals = digitsFrom(end + 1);
      if (decimals == 0) return 0;
      end += 1 + decimals;
    }
    if (is('e') || is('E')) {
      end++;
      if (is('+') || is('-')) end++;
      const size_t exponent = digitsFrom(end);
      if (exponent == 0) return 0;
      end += exponent;
    }
    return end - at;
  }

  bool value(Json& out, int depth) {
    blanks();
    if (depth > 8 || at >= text.size()) return false;
    if (text[at] == '"') {
      out.kind = Json::Kind::text;
      return string(out.text);
    }
    if (take('{')) {
      out.kind = Json::Kind::object;
      if (take('}')) return true;
      do {
        std::string name;
        blanks();
        if (!string(name) || !take(':') || !value(out.members[name], depth + 1)) return false;
      } while (take(','));
      return take('}');
    }
    if (take('[')) {
      out.kind = Json::Kind::list;
      if (take(']')) return true;
      do {
        Json item;
        if (!value(item, depth + 1)) return false;
        if (item.kind == Json::Kind::number) out.numbers.push_back(item.number);
      } while (take(','));
      return take(']');
    }
    if (word("true")) {
      out.kind = Json::Kind::boolean;
      out.boolean = true;
      return true;
    }
    if (word("false")) {
      out.kind = Json::Kind::boolean;
      return true;
    }
    if (word("null")) return true;
    const size_t length = numberLength();
    if (length == 0) return false;
    out.number = std::strtod(text.substr(at, length).c_str(), nullptr);
    out.kind = Json::Kind::number;
    at += length;
    return true;
  }
};

}  // namespace

bool readJson(const std::string& text, Json& value) {
  Reader reader(text);
  if (!reader.value(value, 0)) return false;
  reader.blanks();
  return reader.at == text.size();
}

}  // namespace host
