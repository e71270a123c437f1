// A reader for the small JSON objects of trace lines: strings, numbers, booleans and objects of those; arrays of
// numbers.
#ifndef VESTIBULE_HOST_JSON_H
#define VESTIBULE_HOST_JSON_H

#include <map>
#include <string>
#include <vector>

namespace host {

struct Json {
  enum class Kind { null, boolean, number, text, object, list } kind = Kind::null;
  bool boolean = false;
  double number = 0;
  std::string text;
  std::map<std::string, Json> members;
  std::vector<double> numbers;  // of a list

  const Json* find(const std::string& name) const {
    const auto found = members.find(name);
    return found == members.end() ? nullptr : &found->second;
  }
};

/// Reads a whole text. False: not JSON (RFC 8259), or deeper than eight levels.
bool readJson(const std::string& text, Json& value);

}  // namespace host

#endif
