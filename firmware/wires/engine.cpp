#include "engine.h"

namespace vestibule {
namespace wires {

// As in the runtime: one thing is said at a time.
#ifdef VESTIBULE_ONE_CONTROLLER
static const size_t& TOPIC_SIZE = memory::TOPIC_SIZE;
static const size_t& PAYLOAD_SIZE = memory::PAYLOAD_SIZE;
#define VESTIBULE_WIRE_TOPIC(name) char* const name = memory::topic
#define VESTIBULE_WIRE_PAYLOAD(name) char* const name = memory::payload
#else
static constexpr size_t TOPIC_SIZE = LONGEST_WIRE_TOPIC;
static constexpr size_t PAYLOAD_SIZE = LONGEST_WIRE_PAYLOAD;
#define VESTIBULE_WIRE_TOPIC(name) char name[TOPIC_SIZE]
#define VESTIBULE_WIRE_PAYLOAD(name) char name[PAYLOAD_SIZE]
#endif

bool same(Piece text, Words words) { return equals(text.at, text.length, words); }

void append(Text& text, Piece piece) {
  *text.at = '\0';
  for (size_t i = 0; i < piece.length; i++) vestibule::append(text, piece.at[i]);
}

static int32_t difference(uint32_t a, uint32_t b) { return static_cast<int32_t>(a - b); }

void linkIs(Engine& engine, uint8_t link, bool up) {
  engine.links[link].isUp = up;
  vestibule::link(*engine.device, link, up);
}

void tell(Engine& engine, uint8_t link, Words to, Words last, const char* payload, bool retain) {
  char topic[LONGEST_TOLD_TOPIC];
  Text text = {topic, sizeof topic};
  vestibule::append(text, engine.tables->prefix);
  vestibule::append(text, to);
  vestibule::append(text, last);
  message(*engine.device, link, topic, payload, lengthOf(payload), retain);
}

void note(Engine& engine, uint8_t link, Words text) { engine.far->note(engine.far->context, link, text); }

void forgetRows(Engine& engine, uint8_t link) {
  for (uint8_t i = 0; i < engine.tables->links[link].sayCount; i++) engine.links[link].rows[i] = SayState();
}

// Each link's own part of the memory.
static void prepareLinks(Engine& engine, SayState* rows, Value* known) {
  for (uint8_t i = 0; i < engine.tables->linkCount; i++) {
    const LinkTable& table = engine.tables->links[i];
    LinkState& state = engine.links[i];
    state = LinkState();
    state.rows = rows;
    rows += table.sayCount;
    forgetRows(engine, i);
#ifndef VESTIBULE_ONLY_MQTT
    state.key = table.key;
    state.reading = NO_ROW;
    state.firstRound = true;
    if (!asks(table)) continue;
    state.known = known;
    known += table.hearCount;
    for (uint8_t v = 0; v < table.hearCount; v++) state.known[v].isSet = false;
#endif
  }
  (void)known;
}

#ifdef VESTIBULE_ONE_CONTROLLER
void prepare(Engine& engine, SayState* rows) { prepareLinks(engine, rows, nullptr); }
#else
void prepare(Engine& engine, const Tables& tables, const Far& far, Device& device, LinkState* links, SayState* rows,
             Value* known) {
  engine.tables = &tables;
  engine.far = &far;
  engine.device = &device;
  engine.links = links;
  prepareLinks(engine, rows, known);
}
#endif

void joins(Engine& engine, uint32_t now, uint8_t link) {
  if (engine.tables->links[link].transport == Transport::http) return startHttp(engine, now, link);
  engine.far->connect(engine.far->context, link);
}

static bool endsWith(const char* text, Words last) {
  size_t length = 0;
  while (charAt(last + length) != '\0') length++;
  const size_t whole = lengthOf(text);
  return whole >= length && equals(text + whole - length, length, last);
}

// A text of the tables in the caller's buffer.
static const char* copied(Words words, char* buffer, size_t size) {
  Text text = {buffer, size};
  vestibule::append(text, words);
  return buffer;
}

static bool equalWords(Words a, Words b) {
  for (; charAt(a) == charAt(b); a++, b++) {
    if (charAt(a) == '\0') return true;
  }
  return false;
}

// The first subscription after a link-up stands for all that is heard there: each topic once, the count first.
void subscribes(Engine& engine, uint8_t link, const char* topic) {
  const LinkTable& table = engine.tables->links[link];
  const Far& far = *engine.far;
  if (table.transport == Transport::own) return far.hear(far.context, link, topic, 1);
  if (table.transport != Transport::mqtt || !endsWith(topic, WORDS("vp/+/set"))) return;
  VESTIBULE_WIRE_TOPIC(filter);
  if (table.countTopic != nullptr) far.hear(far.context, link, copied(table.countTopic, filter, TOPIC_SIZE), 0);
  for (uint8_t i = 0; i < table.hearCount; i++) {
    Words from = row(&table.hears[i].from);
    bool before = table.countTopic != nullptr && equalWords(table.countTopic, from);
    for (uint8_t j = 0; j < i && !before; j++) before = equalWords(row(&table.hears[j].from), from);
    if (!before) far.hear(far.context, link, copied(from, filter, TOPIC_SIZE), 0);
  }
}

// The signature behind a blank.
static void seals(const Sign* sign, const char* topic, Text& text, const char* whole) {
  if (sign == nullptr) return;
  char digits[SIGN_DIGITS + 1];
  const Sign& table = row(sign);
  table.mac(table, topic, whole, lengthOf(whole), digits);
  vestibule::append(text, ' ');
  append(text, Piece{digits, SIGN_DIGITS});
}

// What waits of a row goes out.
static void sendRow(Engine& engine, uint32_t now, uint8_t link, uint8_t index) {
  const SayRow& say = row(engine.tables->links[link].says + index);
  SayState& own = engine.links[link].rows[index];
  VESTIBULE_WIRE_TOPIC(topic);
  VESTIBULE_WIRE_PAYLOAD(whole);
  Text text = {whole, PAYLOAD_SIZE};
  vestibule::append(text, say.before);
  append(text, Piece{own.pending.text, lengthOf(own.pending.text)});
  vestibule::append(text, say.after);
  copied(say.to, topic, TOPIC_SIZE);
  seals(engine.tables->links[link].sign, topic, text, whole);
  own.pending.isSet = false;
  if (say.everyMs > 0) {
    own.isHeld = true;
    own.freeAt = now + say.everyMs;
  }
  engine.far->say(engine.far->context, link, topic, whole, say.qos, say.retain);
}

static void saysRow(Engine& engine, uint32_t now, uint8_t link, const SayRow& say, uint8_t index, const char* payload) {
  SayState& own = engine.links[link].rows[index];
  Text pending = {own.pending.text, sizeof own.pending.text};
  if (engine.tables->recodes) {
    encode(say.coding, payload, pending);
  } else {
    append(pending, Piece{payload, lengthOf(payload)});
  }
  own.pending.isSet = true;
  if (engine.tables->links[link].transport == Transport::mqtt && !own.isHeld) sendRow(engine, now, link, index);
}

// What a table names, said as it stands.
static void sayAs(Engine& engine, uint8_t link, Words topic, const char* payload, uint8_t qos, bool retain) {
  VESTIBULE_WIRE_TOPIC(where);
  engine.far->say(engine.far->context, link, copied(topic, where, TOPIC_SIZE), payload, qos, retain);
}

static void sayStatus(Engine& engine, uint8_t link, const LinkTable& table, const char* payload) {
  VESTIBULE_WIRE_PAYLOAD(what);
  const bool online = equals(payload, lengthOf(payload), WORDS("online"));
  copied(online ? table.online : table.offline, what, PAYLOAD_SIZE);
  sayAs(engine, link, table.statusTopic, what, 1, table.statusRetain);
}

void says(Engine& engine, uint32_t now, uint8_t link, const char* topic, const char* payload, bool retain) {
  const LinkTable& table = engine.tables->links[link];
  const Far& far = *engine.far;
  if (table.transport == Transport::own) return far.say(far.context, link, topic, payload, 1, retain);
  for (Words prefix = engine.tables->prefix; charAt(prefix) != '\0'; prefix++) topic++;
  const Piece from = {topic, lengthOf(topic)};
  if (table.statusTopic != nullptr && same(from, WORDS("status"))) return sayStatus(engine, link, table, payload);
  if (table.log != nullptr && same(from, WORDS("log"))) return sayAs(engine, link, table.log, payload, 0, false);
  for (uint8_t i = 0; i < table.sayCount; i++) {
    const SayRow& say = row(table.says + i);
    if (same(from, say.from)) saysRow(engine, now, link, say, i, payload);
  }
}

void opens(Engine& engine, uint8_t link, bool open) {
  if (link >= engine.tables->linkCount || engine.tables->links[link].transport == Transport::http) return;
  forgetRows(engine, link);
  if (!open) stopHttp(engine, link);
  if (open) engine.links[link].countKnown = false;
  linkIs(engine, link, open);
}

static bool readCount(bool there, Piece text, uint32_t& count) {
  if (!there || text.length == 0 || text.length > 10) return false;
  count = 0;
  for (size_t i = 0; i < text.length; i++) {
    const uint8_t digit = static_cast<uint8_t>(text.at[i] - '0');
    // 4294967295 is the greatest
    if (digit > 9 || count > 429496729u || (count == 429496729u && digit > 5)) return false;
    count = count * 10 + digit;
  }
  return true;
}

static void learnCount(LinkState& state, const LinkTable& table, Piece payload) {
  Piece said = payload;
  const bool there = table.countPointer == nullptr || valueAt(payload, table.countPointer, said);
  uint32_t count = 0;
  if (!readCount(there, said, count)) return;
  // it only rises: an old one makes nothing new of what was done
  if (count > state.countLast) state.countLast = count;
  state.countKnown = true;
}

// Was a wish done before, or may it have been? Takes its number where it is new, and cuts it off.
static bool isStale(LinkState& state, const LinkTable& table, bool inDocument, Piece& payload) {
  Piece said = {nullptr, 0};
  bool there = false;
  if (inDocument) {
    there = table.countPointer != nullptr && valueAt(payload, table.countPointer, said);
  } else {
    size_t blank = payload.length;
    while (blank > 0 && payload.at[blank - 1] != ' ') blank--;
    there = blank > 0;
    if (there) said = Piece{payload.at + blank, payload.length - blank};
    payload.length = there ? blank - 1 : payload.length;
  }
  uint32_t count = 0;
  if (!readCount(there, said, count) || !state.countKnown || count <= state.countLast) return true;
  state.countLast = count;
  return false;
}

static void hearsRow(Engine& engine, uint8_t link, const HearRow& hear, Piece whole, Piece document, bool stale) {
  Piece value = whole;
  if (engine.tables->looksInside && hear.pointer != nullptr && !valueAt(document, hear.pointer, value)) return;
  char payload[LONGEST_VALUE + 8];
  Text text = {payload, sizeof payload};
  if (value.length > LONGEST_VALUE) {
    vestibule::append(text, '?');
  } else {
    // where every value is a plain number, nothing else is compiled in
    engine.tables->recodes ? decode(hear.coding, value, text) : decodeNumber(value, text);
  }
  tell(engine, link, hear.to, hear.wish ? WORDS("/set") : WORDS("/held"), payload, stale);
}

// Cuts the signature off; false: it is missing or wrong. As long whatever is wrong about it. An empty key signs
// nothing.
static bool isSigned(const Sign* sign, const char* topic, Piece& payload) {
  if (sign == nullptr) return true;
  const Sign& table = row(sign);
  if (charAt(table.key) == '\0' || payload.length < SIGN_DIGITS + 1) return false;
  const size_t length = payload.length - SIGN_DIGITS - 1;
  if (payload.at[length] != ' ') return false;
  char digits[SIGN_DIGITS + 1];
  table.mac(table, topic, payload.at, length, digits);
  uint8_t differs = 0;
  for (size_t i = 0; i < SIGN_DIGITS; i++)
    differs = static_cast<uint8_t>(differs | (digits[i] ^ payload.at[length + 1 + i]));
  payload.length = length;
  return differs == 0;
}

void hears(Engine& engine, uint8_t link, const char* topic, const char* payload, size_t length, bool stale) {
  if (link >= engine.tables->linkCount || !engine.links[link].isUp) return;
  const LinkTable& table = engine.tables->links[link];
  if (table.transport == Transport::own) return message(*engine.device, link, topic, payload, length, stale);
  if (table.transport != Transport::mqtt) return;
  const Piece where = {topic, lengthOf(topic)};
  Piece document = {payload, length};
  if (!isSigned(table.sign, topic, document))
    return note(engine, link, WORDS("a message with a wrong signature, refused"));
  LinkState& state = engine.links[link];
  if (table.countTopic != nullptr && same(where, table.countTopic)) return learnCount(state, table, document);
  Piece whole = document;
  for (uint8_t i = 0; i < table.hearCount && table.countTopic != nullptr; i++) {
    const HearRow& hear = row(table.hears + i);
    if (!hear.wish || !same(where, hear.from)) continue;
    if (isStale(state, table, engine.tables->looksInside && hear.pointer != nullptr, whole))
      return note(engine, link, WORDS("a wish that was sent before, ignored"));
    break;
  }
  for (uint8_t i = 0; i < table.hearCount; i++) {
    const HearRow& hear = row(table.hears + i);
    if (same(where, hear.from)) hearsRow(engine, link, hear, whole, document, stale);
  }
}

void tick(Engine& engine, uint32_t now) {
  for (uint8_t i = 0; i < engine.tables->linkCount; i++) {
    LinkState& state = engine.links[i];
    const LinkTable& table = engine.tables->links[i];
    for (uint8_t say = 0; say < table.sayCount; say++) {
      SayState& own = state.rows[say];
      if (!own.isHeld || difference(own.freeAt, now) > 0) continue;
      own.isHeld = false;
      if (own.pending.isSet && table.transport == Transport::mqtt) sendRow(engine, now, i, say);
    }
    if (!state.hasDue || difference(state.dueAt, now) > 0) continue;
    state.hasDue = false;
    wakeHttp(engine, i);
  }
}

static void earlier(uint32_t candidate, bool& any, uint32_t& at) {
  if (any && difference(candidate, at) >= 0) return;
  at = candidate;
  any = true;
}

bool nextDeadline(const Engine& engine, uint32_t& at) {
  bool any = false;
  for (uint8_t i = 0; i < engine.tables->linkCount; i++) {
    const LinkState& state = engine.links[i];
    if (state.hasDue) earlier(state.dueAt, any, at);
    for (uint8_t say = 0; say < engine.tables->links[i].sayCount; say++) {
      if (state.rows[say].isHeld) earlier(state.rows[say].freeAt, any, at);
    }
  }
  return any;
}

}  // namespace wires
}  // namespace vestibule
