// The host port: `controller trace` or `controller live ADDRESS PORT` (user and password from the environment).
#include <cstdio>
#include <cstdlib>
#include <cstring>

namespace host {
int runTrace();
#ifdef VESTIBULE_LIVE
int runLive(const char* address, int port);
#endif
}  // namespace host

int main(int count, char** words) {
  if (count == 2 && std::strcmp(words[1], "trace") == 0) return host::runTrace();
#ifdef VESTIBULE_LIVE
  if (count == 4 && std::strcmp(words[1], "live") == 0) return host::runLive(words[2], std::atoi(words[3]));
#endif
  std::fprintf(stderr, "use: controller trace | controller live ADDRESS PORT\n");
  return 2;
}
