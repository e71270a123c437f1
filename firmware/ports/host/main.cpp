// The host port: `controller trace`, `controller wires` (a trace through the wires) or `controller live ADDRESS PORT`
// (user and password from the environment). With a last word `mirror` it is the coprocessor of a pair: lines of the
// main board come in, characters for it go out.
#include <cstdio>
#include <cstdlib>
#include <cstring>

namespace host {
int runTrace(bool mirrors);
int runWires();
int runLive(const char* address, int port, bool mirrors);
}  // namespace host

int main(int count, char** words) {
  const bool mirrors = count > 2 && std::strcmp(words[count - 1], "mirror") == 0;
  if (mirrors) count--;
  if (count == 2 && std::strcmp(words[1], "trace") == 0) return host::runTrace(mirrors);
  if (count == 2 && std::strcmp(words[1], "wires") == 0) return host::runWires();
  if (count == 2 && std::strcmp(words[1], "live") == 0) return host::runLive(nullptr, 0, mirrors);
  if (count == 4 && std::strcmp(words[1], "live") == 0) return host::runLive(words[2], std::atoi(words[3]), mirrors);
  std::fprintf(stderr, "use: controller trace [mirror] | controller wires | controller live [ADDRESS PORT] [mirror]\n");
  return 2;
}
