// A modem on a serial line as a socket: one connection, over a dialogue of commands and answers that stands in tables.
// Commands, result codes and their grammar are of ITU-T V.250 (07/2003) and 3GPP TS 27.007, clauses cited from memory;
// what opens a connection and moves bytes over it is each maker's own.
//
// Nothing here waits and nothing is kept twice: bytes of the connection go from the caller's buffer to the line and
// back. While the modem is being told of them, `write` must be offered the same bytes again, as the clients here do.
#ifndef VESTIBULE_MODEM_H
#define VESTIBULE_MODEM_H

#include "socket.h"

namespace vestibule {
namespace modem {

/// Stand in a text for what is only known when it is said.
constexpr char ADDRESS = '\1';
constexpr char PORT = '\2';
constexpr char LENGTH = '\3';

/// The serial line; the port defines it. Neither waits; false: nothing there, or no room.
struct SerialLine {
  void* context;
  bool (*read)(void* context, char& character);
  bool (*write)(void* context, char character);
};

/// What an answer says that is kept.
enum class Reads : uint8_t { nothing, signal, registration };

/// A command on the way from power to network.
struct Step {
  Words says;
  Words answer;  ///< begins a line that must come before its OK; null: OK is enough
  Reads reads;
  uint16_t answerS;    ///< the modem may think so long about it
  uint16_t patienceS;  ///< asked again so long, then the modem is started anew
  bool isLeftOut;
};

struct Dialogue {
  const Step* steps;
  uint8_t stepCount;
  Words restart;
  Words signal;        ///< asked now and then while nothing else is
  Words signalAnswer;  ///< begins its line
  Words open;
  Words opened;  ///< begins the line that says so
  Words send;
  Words prompt;   ///< asks for the bytes
  Words sent;     ///< begins the line that says that they are taken
  Words arrives;  ///< begins the line whose last number says how many bytes come behind it
  Words close;
  Words closed;        ///< begins the line that says so, whoever closed
  uint16_t mostBytes;  ///< in one go
};

enum class Stage : uint8_t { joining, ready, opening, open, closing };
enum class Asked : uint8_t { nothing, step, signal, open, prompt, bytes, sent, close, restart };

constexpr uint8_t LONGEST_LINE = 40;
/// 3GPP TS 27.007, 8.5: not known or not detectable.
constexpr uint8_t NO_SIGNAL = 99;

struct Modem {
  const Dialogue* dialogue;
  SerialLine line;
  Stage stage;
  Asked asked;
  uint8_t step;
  bool answered;    ///< the line of the step's answer has come, and says what it must
  bool isAwaited;   ///< a command is out, or being written
  bool isUnwanted;  ///< the caller has closed
  bool isWanted;    ///< … and wants another
  // what is being said
  Words saying;  ///< null: nothing
  Words inner;
  char digits[6];
  const char* digit;
  bool endsLine;
  Words address;
  uint16_t port;
  // what comes
  char heard[LONGEST_LINE];
  uint8_t heardLength;
  uint16_t dataLeft;  ///< bytes of the connection
  uint16_t sendLeft;
  // times, ms
  uint32_t now;
  uint32_t askedAt;
  uint32_t againAt;
  uint32_t stepBeganAt;
  uint32_t signalAt;
  // how it stands
  uint8_t failures;      ///< of opening, one after the other
  uint8_t signal;        ///< 0 to 31 (3GPP TS 27.007, 8.5), or NO_SIGNAL
  uint8_t registration;  ///< 3GPP TS 27.007, 7.2: 1 at home, 5 abroad
  uint16_t restarts;
  uint32_t bytes;  ///< over the connection, both ways, with the headers of TCP and IP
};

void prepare(Modem& modem, const Dialogue& dialogue, const SerialLine& line, uint32_t nowMs);
/// At each pass: says what waits, and looks at the time.
void pass(Modem& modem, uint32_t nowMs);
/// Is the network there for a connection?
inline bool isJoined(const Modem& modem) { return modem.stage != Stage::joining; }
/// The socket over the one connection; `context` is the modem.
bool open(void* context, Words address, uint16_t port, bool tls);
wires::Connection state(void* context);
size_t read(void* context, uint8_t* buffer, size_t size);
size_t write(void* context, const uint8_t* bytes, size_t size);
void close(void* context);

}  // namespace modem
}  // namespace vestibule

#endif
