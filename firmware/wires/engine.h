// What the engine's files share among themselves.
#ifndef VESTIBULE_WIRES_ENGINE_H
#define VESTIBULE_WIRES_ENGINE_H

#include "text.h"
#include "wires.h"

namespace vestibule {
namespace wires {

/// A piece of a text that somebody else owns.
struct Piece {
  const char* at;
  size_t length;
};

// coding.cpp
void encode(const Coding& coding, const char* said, Text& out);
/// What is no value of the coding comes out as "?", so that the controller refuses it by name.
void decode(const Coding& coding, Piece heard, Text& out);
void decodeNumber(Piece heard, Text& out);

// pointer.cpp
/// The scalar at a JSON Pointer (RFC 6901) of a document; false: it is not there.
bool valueAt(Piece document, Words pointer, Piece& value);

// http.cpp
#ifdef VESTIBULE_ONLY_MQTT
inline void startHttp(Engine&, uint32_t, uint8_t) {}
inline void stopHttp(Engine&, uint8_t) {}
inline void wakeHttp(Engine&, uint8_t) {}
#else
void startHttp(Engine& engine, uint32_t now, uint8_t link);
void stopHttp(Engine& engine, uint8_t link);
void wakeHttp(Engine& engine, uint8_t link);
#endif

// engine.cpp
bool same(Piece text, Words words);
void append(Text& text, Piece piece);
void linkIs(Engine& engine, uint8_t link, bool up);
/// Tells the runtime of a point: `last` is "/set" or "/held".
void tell(Engine& engine, uint8_t link, Words to, Words last, const char* payload, bool retain);
void note(Engine& engine, uint8_t link, Words text);
/// A connection is new, or gone: what waited is told anew with everything else.
void forgetRows(Engine& engine, uint8_t link);
/// Does the row's link make requests?
inline bool asks(const LinkTable& table) {
  return table.transport == Transport::http || (table.transport == Transport::hook && table.method != nullptr);
}

}  // namespace wires
}  // namespace vestibule

#endif
