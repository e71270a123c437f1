#include "engine.h"

namespace vestibule {
namespace wires {

// A link of requests (RFC 9110): one at a time, writes before reads. It is up when a first round of reading has
// succeeded. What is read is a state and no command: first as what the service holds, later, when it has become
// another, as a wish; and never for what only pulses or moves.

// Too many requests: none for so long (RFC 6585, 4).
static const uint32_t TOO_FAST_MS = 5000;

static void setText(Value& value, const char* text, size_t length) {
  Text out = {value.text, sizeof value.text};
  append(out, Piece{text, length});
  value.isSet = true;
}

static void dueIn(LinkState& state, uint32_t now, uint32_t ms) {
  state.dueAt = now + ms;
  state.hasDue = true;
}

void startHttp(Engine& engine, uint32_t now, uint8_t link) {
  LinkState& state = engine.links[link];
  stopHttp(engine, link);
  state.active = true;
  // where nothing is asked, nothing says whether it can be reached: the first write will
  if (engine.tables->links[link].readMs != 0) {
    state.reading = 0;
  } else {
    dueIn(state, now, 1);
  }
}

void stopHttp(Engine& engine, uint8_t link) {
  LinkState& state = engine.links[link];
  if (state.known == nullptr) return;
  const LinkTable& table = engine.tables->links[link];
  forgetRows(engine, link);
  for (uint8_t i = 0; i < table.hearCount; i++) state.known[i].isSet = false;
  state.onItsWay = OnItsWay::nothing;
  state.active = false;
  state.reading = NO_ROW;
  state.firstRound = true;
  state.waiting = false;
  state.hasDue = false;
}

// Its time has come: the next round, or a link that asks nothing is up.
void wakeHttp(Engine& engine, uint8_t link) {
  LinkState& state = engine.links[link];
  if (state.known == nullptr) return;
  const LinkTable& table = engine.tables->links[link];
  state.waiting = false;
  if (table.readMs != 0) {
    if (state.reading == NO_ROW) state.reading = 0;
  } else if (!state.isUp && table.transport == Transport::http) {
    linkIs(engine, link, true);
  }
}

static void ask(Engine& engine, uint8_t link, Words method, Words path, const char* body) {
  char word[8];
  char where[LONGEST_WIRE_TOPIC];
  Text first = {word, sizeof word};
  vestibule::append(first, method);
  Text second = {where, sizeof where};
  vestibule::append(second, path);
  engine.far->ask(engine.far->context, link, word, where, body);
}

static void pumpLink(Engine& engine, uint32_t now, uint8_t link) {
  LinkState& state = engine.links[link];
  if (state.known == nullptr || state.onItsWay != OnItsWay::nothing || state.waiting) return;
  const LinkTable& table = engine.tables->links[link];
  for (uint8_t i = 0; i < table.sayCount && state.isUp; i++) {
    SayState& own = state.rows[i];
    if (!own.pending.isSet || own.isHeld) continue;
    state.sent = own.pending;
    own.pending.isSet = false;
    state.onItsWay = OnItsWay::write;
    state.row = i;
    const SayRow& say = row(table.says + i);
    if (say.everyMs > 0) {
      own.isHeld = true;
      own.freeAt = now + say.everyMs;
    }
    char body[LONGEST_WIRE_PAYLOAD];
    Text text = {body, sizeof body};
    vestibule::append(text, say.before);
    append(text, Piece{state.sent.text, lengthOf(state.sent.text)});
    vestibule::append(text, say.after);
    return ask(engine, link, table.method, say.to, body);
  }
  if (!state.active || state.reading == NO_ROW) return;
  state.onItsWay = OnItsWay::read;
  state.row = state.reading;
  ask(engine, link, WORDS("GET"), row(&table.hears[state.row].from), "");
}

// Begins the next request of each link, where none is on its way.
void pump(Engine& engine, uint32_t now) {
  for (uint8_t i = 0; i < engine.tables->linkCount; i++) pumpLink(engine, now, i);
}

// "vp/7/state" is what "vp/7" says.
static bool saysPoint(Words from, Words to) {
  for (; charAt(to) != '\0'; from++, to++) {
    if (charAt(from) != charAt(to)) return false;
  }
  for (Words last = WORDS("/state"); charAt(last) == charAt(from); last++, from++) {
    if (charAt(from) == '\0') return true;
  }
  return false;
}

static void waits(Engine& engine, uint32_t now, uint8_t link, OnItsWay asked) {
  LinkState& state = engine.links[link];
  Value& pending = state.rows[state.row].pending;
  if (asked == OnItsWay::write && !pending.isSet) pending = state.sent;
  note(engine, link, WORDS("too many requests, waiting"));
  state.waiting = true;
  dueIn(state, now, TOO_FAST_MS);
}

static void fails(Engine& engine, uint8_t link, uint16_t status) {
  char text[32];
  Text why = {text, sizeof text};
  if (status == 0) {
    vestibule::append(why, WORDS("no answer"));
  } else if (status == 401 || status == 403) {
    vestibule::append(why, WORDS("refused ("));
    appendNumber(why, status);
    vestibule::append(why, ')');
  } else {
    vestibule::append(why, WORDS("answered "));
    appendNumber(why, status);
  }
  engine.far->note(engine.far->context, link, text);
  const LinkTable& table = engine.tables->links[link];
  if (table.transport == Transport::hook) {
    // the controller itself is there: what could not be told is told with the next change
    forgetRows(engine, link);
    return;
  }
  stopHttp(engine, link);
  linkIs(engine, link, false);
}

// What it says itself is no news when it reads it.
static void written(Engine& engine, uint8_t link) {
  LinkState& state = engine.links[link];
  const LinkTable& table = engine.tables->links[link];
  Words from = row(&table.says[state.row].from);
  for (uint8_t i = 0; i < table.hearCount; i++) {
    if (saysPoint(from, row(&table.hears[i].to))) state.known[i] = state.sent;
  }
}

static bool isBeingWritten(const LinkState& state, const LinkTable& table, Words to) {
  for (uint8_t i = 0; i < table.sayCount; i++) {
    if (state.rows[i].pending.isSet && saysPoint(row(&table.says[i].from), to)) return true;
  }
  return false;
}

static bool isSame(const Value& known, Piece value) {
  if (!known.isSet || lengthOf(known.text) != value.length) return false;
  for (size_t i = 0; i < value.length; i++) {
    if (known.text[i] != value.at[i]) return false;
  }
  return true;
}

static void tellValue(Engine& engine, uint8_t link, const HearRow& hear, const Value& value, Words last) {
  char payload[LONGEST_VALUE + 8];
  Text text = {payload, sizeof payload};
  decode(hear.coding, Piece{value.text, lengthOf(value.text)}, text);
  tell(engine, link, hear.to, last, payload, false);
}

// A value that has become another is a wish; one that is being written meanwhile is not looked at.
static void take(Engine& engine, uint8_t link, uint8_t index, Piece body, bool round) {
  LinkState& state = engine.links[link];
  const LinkTable& table = engine.tables->links[link];
  const HearRow& hear = row(table.hears + index);
  Piece value = body;
  if (hear.pointer != nullptr && !valueAt(body, hear.pointer, value)) return;
  if (isBeingWritten(state, table, hear.to)) return;
  Value& known = state.known[index];
  if (value.length > LONGEST_VALUE) value = Piece{"?", 1};
  const bool news = !isSame(known, value);
  setText(known, value.at, value.length);
  if (!round && news && hear.lasting) tellValue(engine, link, hear, known, WORDS("/set"));
}

static void readDone(Engine& engine, uint32_t now, uint8_t link, Piece body) {
  LinkState& state = engine.links[link];
  const LinkTable& table = engine.tables->links[link];
  const uint8_t first = state.row;
  const uint8_t end = table.readAll ? table.hearCount : static_cast<uint8_t>(first + 1);
  const bool round = state.firstRound;
  const bool isOver = end >= table.hearCount;
  state.reading = isOver ? NO_ROW : end;
  if (round && isOver && !state.isUp) linkIs(engine, link, true);
  for (uint8_t i = first; i < end; i++) take(engine, link, i, body, round);
  if (!isOver) return;
  for (uint8_t i = 0; round && i < table.hearCount; i++) {
    const HearRow& hear = row(table.hears + i);
    if (state.known[i].isSet && hear.lasting) tellValue(engine, link, hear, state.known[i], WORDS("/held"));
  }
  state.firstRound = false;
  dueIn(state, now, table.readMs);
}

void answers(Engine& engine, uint32_t now, uint8_t link, uint16_t status, const char* body, size_t length) {
  if (link >= engine.tables->linkCount) return;
  LinkState& state = engine.links[link];
  const OnItsWay asked = state.onItsWay;
  if (state.known == nullptr || asked == OnItsWay::nothing) return;
  state.onItsWay = OnItsWay::nothing;
  if (status == 429) return waits(engine, now, link, asked);
  if (status < 200 || status > 299) return fails(engine, link, status);
  if (asked == OnItsWay::write) return written(engine, link);
  readDone(engine, now, link, Piece{body, length});
}

}  // namespace wires
}  // namespace vestibule
