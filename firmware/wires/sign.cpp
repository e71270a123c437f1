#include "engine.h"

namespace vestibule {
namespace wires {

// HMAC-SHA-256 (RFC 2104, FIPS 180-4), piece by piece: nothing is put together first.

namespace {

constexpr uint8_t BLOCK = 64;
constexpr uint8_t HASH = 32;

// FIPS 180-4, 4.2.2: the first 32 bits of the fractional parts of the cube roots of the first 64 primes.
constexpr uint32_t K[64] VESTIBULE_FLASH = {
    0x428a2f98, 0x71374491, 0xb5c0fbcf, 0xe9b5dba5, 0x3956c25b, 0x59f111f1, 0x923f82a4, 0xab1c5ed5,
    0xd807aa98, 0x12835b01, 0x243185be, 0x550c7dc3, 0x72be5d74, 0x80deb1fe, 0x9bdc06a7, 0xc19bf174,
    0xe49b69c1, 0xefbe4786, 0x0fc19dc6, 0x240ca1cc, 0x2de92c6f, 0x4a7484aa, 0x5cb0a9dc, 0x76f988da,
    0x983e5152, 0xa831c66d, 0xb00327c8, 0xbf597fc7, 0xc6e00bf3, 0xd5a79147, 0x06ca6351, 0x14292967,
    0x27b70a85, 0x2e1b2138, 0x4d2c6dfc, 0x53380d13, 0x650a7354, 0x766a0abb, 0x81c2c92e, 0x92722c85,
    0xa2bfe8a1, 0xa81a664b, 0xc24b8b70, 0xc76c51a3, 0xd192e819, 0xd6990624, 0xf40e3585, 0x106aa070,
    0x19a4c116, 0x1e376c08, 0x2748774c, 0x34b0bcb5, 0x391c0cb3, 0x4ed8aa4a, 0x5b9cca4f, 0x682e6ff3,
    0x748f82ee, 0x78a5636f, 0x84c87814, 0x8cc70208, 0x90befffa, 0xa4506ceb, 0xbef9a3f7, 0xc67178f2};

struct Sha {
  uint32_t state[8];
  uint8_t block[BLOCK];
  uint32_t length;  ///< bytes so far: no message here is longer than 2^29
};

uint32_t turned(uint32_t x, uint8_t by) { return x >> by | x << (32 - by); }

// FIPS 180-4, 6.2.2; the schedule lives in sixteen words that turn round.
void takesBlock(Sha& sha) {
  uint32_t w[16];
  for (uint8_t i = 0; i < 16; i++) {
    const uint8_t* at = sha.block + 4 * i;
    w[i] = static_cast<uint32_t>(at[0]) << 24 | static_cast<uint32_t>(at[1]) << 16 | static_cast<uint32_t>(at[2]) << 8 |
           at[3];
  }
  uint32_t v[8];
  for (uint8_t i = 0; i < 8; i++) v[i] = sha.state[i];
  for (uint8_t t = 0; t < 64; t++) {
    uint32_t& word = w[t & 15];
    if (t >= 16) {
      const uint32_t a = w[(t + 1) & 15];
      const uint32_t b = w[(t + 14) & 15];
      word += (turned(a, 7) ^ turned(a, 18) ^ a >> 3) + w[(t + 9) & 15] + (turned(b, 17) ^ turned(b, 19) ^ b >> 10);
    }
    const uint32_t e = v[4];
    const uint32_t first =
        v[7] + (turned(e, 6) ^ turned(e, 11) ^ turned(e, 25)) + ((e & v[5]) ^ (~e & v[6])) + row(K + t) + word;
    const uint32_t a = v[0];
    const uint32_t second = (turned(a, 2) ^ turned(a, 13) ^ turned(a, 22)) + ((a & v[1]) ^ (a & v[2]) ^ (v[1] & v[2]));
    for (uint8_t i = 7; i > 0; i--) v[i] = v[i - 1];
    v[4] += first;
    v[0] = first + second;
  }
  for (uint8_t i = 0; i < 8; i++) sha.state[i] += v[i];
}

void begins(Sha& sha) {
  // FIPS 180-4, 5.3.3
  static constexpr uint32_t FIRST[8] VESTIBULE_FLASH = {0x6a09e667, 0xbb67ae85, 0x3c6ef372, 0xa54ff53a,
                                                        0x510e527f, 0x9b05688c, 0x1f83d9ab, 0x5be0cd19};
  for (uint8_t i = 0; i < 8; i++) sha.state[i] = row(FIRST + i);
  sha.length = 0;
}

void takes(Sha& sha, uint8_t byte) {
  sha.block[sha.length % BLOCK] = byte;
  if (++sha.length % BLOCK == 0) takesBlock(sha);
}

void takes(Sha& sha, Words words) {
  for (char c = charAt(words); c != '\0'; c = charAt(++words)) takes(sha, static_cast<uint8_t>(c));
}

void takes(Sha& sha, const uint8_t* bytes, size_t length) {
  for (size_t i = 0; i < length; i++) takes(sha, bytes[i]);
}

// FIPS 180-4, 5.1.1: a one, noughts, and the length in bits.
void ends(Sha& sha, uint8_t* hash) {
  const uint32_t bytes = sha.length;
  takes(sha, static_cast<uint8_t>(0x80));
  while (sha.length % BLOCK != BLOCK - 8) takes(sha, static_cast<uint8_t>(0));
  for (uint8_t i = 0; i < 8; i++) {
    const uint8_t shift = static_cast<uint8_t>(8 * (7 - i));
    takes(sha, static_cast<uint8_t>(shift >= 32 ? bytes >> 29 >> (shift - 32) : (bytes << 3) >> shift));
  }
  for (uint8_t i = 0; i < HASH; i++) hash[i] = static_cast<uint8_t>(sha.state[i / 4] >> (24 - 8 * (i % 4)));
}

// RFC 2104, 2: a key that is longer than a block goes as its hash.
void keyOf(Words words, Sha& sha, uint8_t* key) {
  for (uint8_t i = 0; i < BLOCK; i++) key[i] = 0;
  size_t length = 0;
  for (; charAt(words + length) != '\0'; length++) {
    if (length < BLOCK) key[length] = static_cast<uint8_t>(charAt(words + length));
  }
  if (length <= BLOCK) return;
  begins(sha);
  takes(sha, words);
  for (uint8_t i = 0; i < BLOCK; i++) key[i] = 0;
  ends(sha, key);
}

void padded(Sha& sha, const uint8_t* key, uint8_t pad) {
  begins(sha);
  for (uint8_t i = 0; i < BLOCK; i++) takes(sha, static_cast<uint8_t>(key[i] ^ pad));
}

}  // namespace

void macOf(const Sign& sign, const char* topic, const char* payload, size_t length, char* digits) {
  Sha sha;
  uint8_t key[BLOCK];
  uint8_t hash[HASH];
  keyOf(sign.key, sha, key);
  padded(sha, key, 0x36);
  takes(sha, sign.before);
  if (sign.between != nullptr) {
    takes(sha, reinterpret_cast<const uint8_t*>(topic), lengthOf(topic));
    takes(sha, sign.between);
  }
  takes(sha, reinterpret_cast<const uint8_t*>(payload), length);
  takes(sha, sign.after);
  ends(sha, hash);
  padded(sha, key, 0x5c);
  takes(sha, hash, HASH);
  ends(sha, hash);
  for (uint8_t i = 0; i < HASH; i++) {
    const uint8_t high = hash[i] >> 4;
    const uint8_t low = hash[i] & 15;
    *digits++ = static_cast<char>(high < 10 ? '0' + high : 'a' + high - 10);
    *digits++ = static_cast<char>(low < 10 ? '0' + low : 'a' + low - 10);
  }
  *digits = '\0';
}

}  // namespace wires
}  // namespace vestibule
