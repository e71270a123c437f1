// A stand-in for the Wi-Fi of a board core: the network is this machine, and its sockets are real ones on loopback.
#ifndef VESTIBULE_TEST_WIFI_H
#define VESTIBULE_TEST_WIFI_H

#include <arpa/inet.h>
#include <fcntl.h>
#include <netinet/in.h>
#include <netinet/tcp.h>
#include <poll.h>
#include <stdint.h>
#include <sys/socket.h>
#include <unistd.h>

#include <memory>
#include <string>

constexpr int WL_CONNECTED = 3, WL_DISCONNECTED = 6;

struct MockWiFi {
  int joins = 0;
  bool there = true;
  std::string name, password;      ///< that it was asked to join
  std::string onlyName;            ///< the one that is there; empty: any
  std::string accessPoint, opens;  ///< its own network and that one's password; empty: none
  void begin(const char* network, const char* secret) {
    joins++;
    name = network;
    password = secret;
  }
  int status() const {
    return there && joins > 0 && (onlyName.empty() || onlyName == name) ? WL_CONNECTED : WL_DISCONNECTED;
  }
  int RSSI() const { return -61; }
  void softAP(const char* network, const char* secret) {
    accessPoint = network;
    opens = secret;
  }
  void softAPdisconnect(bool) { accessPoint.clear(); }
};
extern MockWiFi WiFi;

/// Copies share the connection, as those of the usual cores do.
class WiFiClient {
 public:
  WiFiClient() {}
  explicit WiFiClient(int handle) : own(new Handle{handle}) {}
  void setTimeout(unsigned long ms) { timeoutMs = static_cast<int>(ms); }
  int connect(const char* address, uint16_t port) {
    stop();
    const int handle = ::socket(AF_INET, SOCK_STREAM, 0);
    own.reset(new Handle{handle});
    fcntl(handle, F_SETFL, fcntl(handle, F_GETFL, 0) | O_NONBLOCK);
    const int yes = 1;
    setsockopt(handle, IPPROTO_TCP, TCP_NODELAY, &yes, sizeof yes);
    sockaddr_in place = {};
    place.sin_family = AF_INET;
    place.sin_port = htons(port);
    inet_pton(AF_INET, address, &place.sin_addr);
    ::connect(handle, reinterpret_cast<sockaddr*>(&place), sizeof place);
    pollfd wait = {handle, POLLOUT, 0};
    int error = 1;
    socklen_t size = sizeof error;
    if (poll(&wait, 1, timeoutMs) == 1 && getsockopt(handle, SOL_SOCKET, SO_ERROR, &error, &size) == 0 && error == 0)
      return 1;
    stop();
    return 0;
  }
  int available() {
    uint8_t byte;
    if (!own) return 0;
    const ssize_t size = recv(own->value, &byte, 1, MSG_PEEK);
    if (size == 0) own->ended = true;
    return size > 0 ? 1024 : 0;
  }
  int read(uint8_t* buffer, size_t size) { return own ? static_cast<int>(recv(own->value, buffer, size, 0)) : -1; }
  size_t write(const uint8_t* bytes, size_t size) {
    const ssize_t taken = own ? send(own->value, bytes, size, MSG_NOSIGNAL) : -1;
    return taken > 0 ? static_cast<size_t>(taken) : 0;
  }
  uint8_t connected() {
    available();
    return own && !own->ended ? 1 : 0;
  }
  void stop() { own.reset(); }

 private:
  struct Handle {
    int value;
    bool ended = false;
    explicit Handle(int v) : value(v) {}
    ~Handle() { ::close(value); }
  };
  std::shared_ptr<Handle> own;
  int timeoutMs = 1000;
};

class WiFiServer {
 public:
  explicit WiFiServer(uint16_t number) : port(number) {}
  void begin() {
    handle = ::socket(AF_INET, SOCK_STREAM, 0);
    const int yes = 1;
    setsockopt(handle, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
    sockaddr_in place = {};
    place.sin_family = AF_INET;
    place.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
    place.sin_port = htons(port);
    bind(handle, reinterpret_cast<sockaddr*>(&place), sizeof place);
    listen(handle, 4);
    fcntl(handle, F_SETFL, O_NONBLOCK);
  }
  WiFiClient available() {
    const int caller = ::accept(handle, nullptr, nullptr);
    if (caller < 0) return WiFiClient();
    fcntl(caller, F_SETFL, O_NONBLOCK);
    return WiFiClient(caller);
  }

 private:
  uint16_t port;
  int handle = -1;
};

#endif
