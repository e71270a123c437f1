#include "engine.h"

namespace vestibule {
namespace wires {

// Calls to the controller's own port. A call bears the key; a wrong one is refused, counted, and slows all that follow.
// What pulses or moves is only done by POST, and only once for each Idempotency-Key: a page that is fetched ahead, or a
// call that is sent again because its answer was lost, opens no door.

static const uint32_t FIRST_WAIT_MS = 1000;
static const uint32_t LONGEST_WAIT_MS = 60000;
static const uint8_t MOST_WRONG = 7;

// As long whatever is wrong about it, so that nobody learns the key by the time that a refusal takes.
static bool isKey(Piece said, Words key) {
  size_t length = 0;
  uint8_t differs = 0;
  for (char c = charAt(key); c != '\0'; c = charAt(key + ++length))
    differs = static_cast<uint8_t>(differs | (c ^ (length < said.length ? said.at[length] : 0)));
  // an empty key would open to everybody
  return length > 0 && length == said.length && differs == 0;
}

// What stands behind the key; null: the key is wrong.
static const char* behindKey(const LinkTable& table, Words wanted, const char* path, const char* key) {
  if (!table.keyInPath) return isKey(Piece{key, lengthOf(key)}, wanted) ? path : nullptr;
  if (path[0] != '/') return nullptr;
  size_t end = 1;
  while (path[end] != '\0' && path[end] != '/') end++;
  if (path[end] == '\0') return nullptr;
  return isKey(Piece{path + 1, end - 1}, wanted) ? path + end : nullptr;
}

// FNV-1a, 32 bits (Fowler, Noll, Vo; the constants of RFC 9923).
static uint32_t markOf(const char* text) {
  uint32_t hash = 0x811c9dc5ul;
  for (; *text != '\0'; text++) hash = (hash ^ static_cast<uint8_t>(*text)) * 0x01000193ul;
  return hash;
}

static bool wasDone(LinkState& state, const char* once) {
  const uint32_t mark = markOf(once);
  for (uint8_t i = 0; i < state.doneCount; i++) {
    if (state.done[i] == mark) return true;
  }
  if (state.doneCount == REMEMBERED_CALLS) {
    for (uint8_t i = 1; i < REMEMBERED_CALLS; i++) state.done[i - 1] = state.done[i];
    state.doneCount--;
  }
  state.done[state.doneCount++] = mark;
  return false;
}

static void wrongKey(LinkState& state, uint32_t now) {
  if (state.wrong < MOST_WRONG) state.wrong++;
  uint32_t wait = FIRST_WAIT_MS << (state.wrong - 1);
  if (wait > LONGEST_WAIT_MS) wait = LONGEST_WAIT_MS;
  state.isClosed = true;
  state.closedUntil = now + wait;
}

static bool is(const char* text, Words words) { return same(Piece{text, lengthOf(text)}, words); }

static const HearRow* rowOf(const LinkTable& table, const char*& path) {
  for (uint8_t i = 0; i < table.hearCount; i++) {
    const char* at = path;
    Words from = row(&table.hears[i].from);
    while (charAt(from) != '\0' && charAt(from) == *at) {
      from++;
      at++;
    }
    if (charAt(from) != '\0') continue;
    path = at;
    return table.hears + i;
  }
  return nullptr;
}

// What a call does, where it is right.
struct Wish {
  Words to;  ///< null: nothing
  char value[LONGEST_VALUE + 8];
};

static uint16_t statusOf(Engine& engine, uint32_t now, uint8_t link, const char* method, const char* path,
                         const char* key, const char* once, Wish& wish) {
  const LinkTable& table = engine.tables->links[link];
  LinkState& state = engine.links[link];
  // a closed door asks nobody for a key, the right one neither: else it could be guessed meanwhile
  if (state.isClosed && static_cast<int32_t>(state.closedUntil - now) > 0) return 429;
  path = behindKey(table, engine.links[link].key, path, key);
  if (path == nullptr) {
    wrongKey(state, now);
    note(engine, link, WORDS("a call with a wrong key, refused"));
    return 403;
  }
  state.wrong = 0;
  state.isClosed = false;
  const bool post = is(method, WORDS("POST"));
  if (!post && !is(method, WORDS("GET"))) return 405;
  const HearRow* at = rowOf(table, path);
  if (at == nullptr) return 404;
  const HearRow& hear = row(at);
  Text text = {wish.value, sizeof wish.value};
  const Piece said = {path, lengthOf(path)};
  if (said.length > LONGEST_VALUE) return 400;
  decode(hear.coding, said, text);
  int32_t number = 0;
  if (!wholeNumber(wish.value, lengthOf(wish.value), number) || number < hear.min || number > hear.max) return 400;
  if (!hear.lasting) {
    if (!post) return 405;
    // RFC 6585, 3
    if (once[0] == '\0') return 428;
    if (wasDone(state, once)) return 200;
  }
  wish.to = hear.to;
  return 200;
}

void called(Engine& engine, uint32_t now, uint8_t link, const char* method, const char* path, const char* key,
            const char* once) {
  if (link >= engine.tables->linkCount || !engine.links[link].isUp) return;
  if (engine.tables->links[link].transport != Transport::hook) return;
  Wish wish = {nullptr, ""};
  // the caller is answered before the runtime says anything
  engine.far->reply(engine.far->context, link, statusOf(engine, now, link, method, path, key, once, wish));
  if (wish.to != nullptr) tell(engine, link, wish.to, WORDS("/set"), wish.value, false);
}

}  // namespace wires
}  // namespace vestibule
