// core/src/kernels/memory.ts
var float64s = (length) => new Float64Array(length);
var int32s = (length) => new Int32Array(length);
var uint32s = (length) => new Uint32Array(length);
var uint8s = (length) => new Uint8Array(length);
var bitmap = (length) => new Uint8Array(length + 7 >> 3);
var isSet = (map2, i) => map2 !== void 0 && (map2[i >> 3] & 1 << (i & 7)) !== 0;
var set = (map2, i) => {
  map2[i >> 3] = map2[i >> 3] | 1 << (i & 7);
};
var fillSet = (to, map2, value) => {
  const bytes = Math.min(map2.length, to.length + 7 >> 3);
  for (let byte = 0; byte < bytes; byte++)
    for (let bits = map2[byte]; bits !== 0; bits &= bits - 1) {
      const i = (byte << 3) + 31 - Math.clz32(bits & -bits);
      if (i < to.length) to[i] = value;
    }
};
var copyBits = (to, at, from, count3) => {
  const whole5 = (at & 7) === 0 ? count3 >> 3 : 0;
  to.set(from.subarray(0, whole5), at >> 3);
  for (let i = whole5 << 3; i < count3; i++) if (isSet(from, i)) set(to, at + i);
};
var IntList = class {
  buffer = int32s(1024);
  length = 0;
  push(value) {
    if (this.length === this.buffer.length) {
      const wider = int32s(this.buffer.length * 2);
      wider.set(this.buffer);
      this.buffer = wider;
    }
    this.buffer[this.length++] = value;
  }
  done() {
    return this.buffer.slice(0, this.length);
  }
};

// core/src/kernels/csv-output.ts
var rowsAnOutput = 4096;
var mostTogether = 1 << 24;
var textsOf = (texts) => {
  const encoder2 = new TextEncoder();
  const ends2 = new Uint32Array(texts.length);
  let length = 0;
  texts.forEach((text3, i) => ends2[i] = length += text3.length);
  const together3 = length > mostTogether ? void 0 : encoder2.encode(texts.join(""));
  if (together3?.length === length) return { bytes: together3, ends: ends2 };
  const parts2 = texts.map((text3) => encoder2.encode(text3));
  const bytes = uint8s(parts2.reduce((sum, part2) => sum + part2.length, 0));
  let at = 0;
  parts2.forEach((part2, i) => {
    bytes.set(part2, at);
    at += part2.length;
    ends2[i] = at;
  });
  return { bytes, ends: ends2 };
};

// core/src/kernels/csv-output-reference.ts
var textsOfRows = (column, from, to) => {
  if (column.form === "texts") return column.texts(from, to);
  if (column.form === "numbers")
    return textsOf(
      Array.from(
        column.values.subarray(from, to),
        (value, i) => isSet(column.nulls, from + i) ? "" : column.write(value)
      )
    );
  const { bytes, ends: ends2 } = column.words;
  const codes = column.codes.subarray(from, to);
  const made3 = new Uint32Array(codes.length);
  let length = 0;
  codes.forEach((code2, i) => made3[i] = length += ends2[code2] - (ends2[code2 - 1] ?? 0));
  const all = uint8s(length);
  codes.forEach((code2, i) => all.set(bytes.subarray(ends2[code2 - 1] ?? 0, ends2[code2]), made3[i - 1] ?? 0));
  return { bytes: all, ends: made3 };
};
var csvOutputReference = (columns) => (from, to) => {
  const cells = columns.map((column) => textsOfRows(column, from, to));
  const out = uint8s(
    cells.reduce((sum, { bytes, ends: ends2 }) => sum + Math.min(bytes.length, ends2.at(-1) ?? 0) + to - from, 0)
  );
  let at = 0;
  for (let i = 0; i < to - from; i++)
    cells.forEach(({ bytes, ends: ends2 }, c) => {
      const cell = bytes.subarray(ends2[i - 1] ?? 0, ends2[i]);
      out.set(cell, at);
      at += cell.length;
      out[at++] = c === cells.length - 1 ? 10 : 44;
    });
  return out;
};

// core/src/kernels/csv-kernel.ts
var numberFlags = { number: 0, empty: 1, other: 2 };
var cellsABlock = 1 << 15;
var bytesABlock = 1 << 18;
var longestRow = 1 << 24;

// core/src/kernels/dictionary-reference.ts
var hashOf = (bytes, start, end) => {
  let hash = end - start;
  let i = start;
  for (; i + 4 <= end; i += 4)
    hash = Math.imul(
      hash ^ (bytes[i] | bytes[i + 1] << 8 | bytes[i + 2] << 16 | bytes[i + 3] << 24),
      2654435761
    );
  for (; i < end; i++) hash = Math.imul(hash ^ bytes[i], 2654435761);
  return hash ^ hash >>> 15;
};
var sameBytes = (a, start, end, b, from, to) => {
  if (end - start !== to - from) return false;
  for (let i = start, k = from; i < end; i++, k++) if (a[i] !== b[k]) return false;
  return true;
};
var grown = (make, old, least2) => {
  const wider = make(Math.max(least2, old.length * 2));
  wider.set(old);
  return wider;
};
var ReferenceDictionary = class {
  slots = int32s(1024);
  hashes = int32s(512);
  ends = uint32s(512);
  arena = uint8s(1 << 13);
  size = 1;
  codeOf(bytes, start = 0, end = bytes.length, last = 0) {
    if (start === end) return 0;
    if (last > 0 && this.holds(last, bytes, start, end)) return last;
    const mask = this.slots.length - 1;
    const hash = hashOf(bytes, start, end);
    let slot2 = hash & mask;
    for (let code2 = this.slots[slot2]; code2 > 0; code2 = this.slots[slot2]) {
      if (this.hashes[code2] === hash && this.holds(code2, bytes, start, end)) return code2;
      slot2 = slot2 + 1 & mask;
    }
    return this.append(hash, bytes.subarray(start, end));
  }
  texts() {
    return {
      bytes: this.arena.slice(0, this.ends[this.size - 1]),
      ends: this.ends.slice(0, this.size)
    };
  }
  holds(code2, bytes, start, end) {
    return sameBytes(bytes, start, end, this.arena, this.ends[code2 - 1], this.ends[code2]);
  }
  append(hash, bytes) {
    const code2 = this.size++;
    if (code2 === this.ends.length) {
      this.ends = grown(uint32s, this.ends, code2 + 1);
      this.hashes = grown(int32s, this.hashes, code2 + 1);
    }
    const from = this.ends[code2 - 1];
    const end = from + bytes.length;
    if (end > this.arena.length) this.arena = grown(uint8s, this.arena, end);
    this.arena.set(bytes, from);
    this.ends[code2] = end;
    this.hashes[code2] = hash;
    if (this.size * 2 > this.slots.length) this.rehash();
    else this.seat(code2);
    return code2;
  }
  seat(code2) {
    const mask = this.slots.length - 1;
    let slot2 = this.hashes[code2] & mask;
    while (this.slots[slot2] > 0) slot2 = slot2 + 1 & mask;
    this.slots[slot2] = code2;
  }
  rehash() {
    this.slots = int32s(this.slots.length * 4);
    for (let code2 = 1; code2 < this.size; code2++) this.seat(code2);
  }
};

// core/src/kernels/csv-reference.ts
var lineFeed = 10;
var carriageReturn = 13;
var minus = 45;
var zero = 48;
var powers = Array.from({ length: 16 }, (_, i) => 10 ** i);
var hadMark = false;
var numberIn = (bytes, start, end, mark) => {
  const negative = bytes[start] === minus;
  const first2 = negative ? start + 1 : start;
  let value = 0;
  let point = -1;
  for (let i = first2; i < end; i++) {
    const byte = bytes[i];
    const digit = byte - zero;
    if (digit >= 0 && digit <= 9) value = value * 10 + digit;
    else if (byte === mark && point < 0) point = i;
    else return NaN;
  }
  const digits2 = end - first2 - (point < 0 ? 0 : 1);
  const ahead = (point < 0 ? end : point) - first2;
  if (digits2 < 1 || digits2 > 15 || ahead > 1 && bytes[first2] === zero || point === end - 1) return NaN;
  hadMark = point >= 0;
  if (hadMark) value /= powers[end - point - 1];
  return negative && value !== 0 ? -value : value;
};
var ReferenceCsv = class {
  next = 0;
  source;
  layout;
  most;
  /** Start and end of each cell of the block, row by row. */
  cuts;
  block = uint8s(bytesABlock);
  rows = 0;
  flags;
  constructor(source, layout7) {
    this.source = source;
    this.layout = layout7;
    this.most = Math.max(1, Math.floor(cellsABlock / layout7.width));
    this.cuts = int32s(this.most * layout7.width * 2);
    this.flags = uint8s(this.most);
  }
  cut(from) {
    for (; ; ) {
      const part2 = this.source.block(from, this.block.length);
      this.block.set(part2);
      const last = from + part2.length === this.source.size;
      this.rows = 0;
      let at = 0;
      let after = 0;
      while (this.rows < this.most && at < part2.length) {
        after = this.row(at, part2.length, last);
        if (after < 0) break;
        at = Math.min(after, part2.length);
        this.rows++;
      }
      this.next = from + at;
      if (this.rows > 0 || after !== incomplete || this.block.length >= longestRow) return this.rows;
      this.block = uint8s(this.block.length * 4);
    }
  }
  /** One row into `cuts`; the position after its line break, or that it is odd or goes on behind the block. */
  // eslint-disable-next-line complexity -- a state machine over bytes (RFC 4180); a call a byte would cost half the speed of reading
  row(from, end, last) {
    const { block: block2, cuts } = this;
    const { delimiter, quote: quote2, width } = this.layout;
    let k = this.rows * width * 2;
    let filled2 = 0;
    for (let columns = 0, start = from; ; columns++) {
      const quoted2 = start < end && block2[start] === quote2;
      let i;
      let until;
      if (quoted2) {
        ;
        [until, i] = this.unquoted(start + 1, end);
        if (i > end || i === end && !last) return last ? odd : incomplete;
        if (block2[i] === carriageReturn && block2[i + 1] === lineFeed && i + 1 < end) i++;
        if (i < end && block2[i] !== delimiter && block2[i] !== lineFeed) return odd;
      } else {
        i = start;
        while (i < end && block2[i] !== delimiter && block2[i] !== lineFeed) i++;
        until = i > start && (i === end || block2[i] === lineFeed) && block2[i - 1] === carriageReturn ? i - 1 : i;
      }
      if (i === end && !last) return incomplete;
      const ended = i === end || block2[i] === lineFeed;
      if (columns === width || ended && columns + 1 !== width) return odd;
      cuts[k++] = quoted2 ? start + 1 : start;
      cuts[k++] = until;
      filled2 += until - cuts[k - 2];
      start = i + 1;
      if (ended) return filled2 > 0 ? start : odd;
    }
  }
  /** Where the content of a quoted cell ends once doubled quotes are made one in place, and the place behind its closing quote; a place behind the end where none closes it. */
  unquoted(from, end) {
    const { block: block2 } = this;
    const { quote: quote2 } = this.layout;
    let written5 = from;
    for (let read2 = from; read2 < end; read2++) {
      if (block2[read2] === quote2) {
        if (read2 + 1 >= end || block2[read2 + 1] !== quote2) return [written5, read2 + 1];
        read2++;
      }
      block2[written5++] = block2[read2];
    }
    return [written5, end + 1];
  }
  numbers(column, mark, values, at) {
    const { block: block2, cuts, flags } = this;
    const step = this.layout.width * 2;
    let found2 = 0;
    for (let i = 0, k = column * 2; i < this.rows; i++, k += step) {
      const start = cuts[k];
      const end = cuts[k + 1];
      const value = start === end ? 0 : numberIn(block2, start, end, mark);
      const other = value !== value;
      values[at + i] = other ? 0 : value;
      flags[i] = numberFlags.number;
      if (start === end) flags[i] = numberFlags.empty;
      else if (other) flags[i] = numberFlags.other;
      else if (hadMark) found2 |= 2;
      if (flags[i] !== numberFlags.number) found2 |= 1;
    }
    return found2;
  }
  text(column, row) {
    const k = (row * this.layout.width + column) * 2;
    return this.source.decoder(this.block)(this.cuts[k], this.cuts[k + 1]);
  }
  firstFilled(column) {
    const step = this.layout.width * 2;
    for (let i = 0, k = column * 2; i < this.rows; i++, k += step) if (this.cuts[k] !== this.cuts[k + 1]) return i;
    return -1;
  }
  texts(column, before) {
    const { block: block2, cuts } = this;
    const step = this.layout.width * 2;
    const ends2 = uint32s(this.rows);
    let length = 0;
    for (let i = 0, k = column * 2; i < this.rows; i++, k += step)
      ends2[i] = before + (length += cuts[k + 1] - cuts[k]);
    const bytes = uint8s(length);
    for (let i = 0, at = 0, k = column * 2; i < this.rows; i++, k += step)
      for (let from = cuts[k]; from < cuts[k + 1]; from++) bytes[at++] = block2[from];
    return { bytes, ends: ends2 };
  }
  dictionary() {
    const dictionary2 = new ReferenceDictionary();
    const step = this.layout.width * 2;
    return {
      get size() {
        return dictionary2.size;
      },
      codes: (column, codes, at) => {
        let last = 0;
        for (let i = 0, k = column * 2; i < this.rows; i++, k += step) {
          const code2 = dictionary2.codeOf(this.block, this.cuts[k], this.cuts[k + 1], last);
          codes[at + i] = code2;
          if (code2 > 0) last = code2;
        }
      },
      codeOf: (text3) => dictionary2.codeOf(text3),
      codesOf: ({ bytes, ends: ends2 }) => {
        const codes = uint32s(ends2.length);
        for (let i = 0; i < ends2.length; i++) codes[i] = dictionary2.codeOf(bytes, i === 0 ? 0 : ends2[i - 1], ends2[i]);
        return codes;
      },
      texts: () => dictionary2.texts()
    };
  }
};
var odd = -1;
var incomplete = -2;
var referenceCsv = (source, layout7) => new ReferenceCsv(source, layout7);

// core/src/kernels/table-kernels.ts
var noGroup = 4294967295;
var operations = ["+", "-", "*", "/"];

// core/src/kernels/table-reference.ts
var numberCodes = (values, nulls) => {
  const codes = uint32s(values.length);
  const seen2 = /* @__PURE__ */ new Map();
  for (let i = 0; i < values.length; i++) {
    if (isSet(nulls, i)) continue;
    const value = values[i];
    let code2 = seen2.get(value);
    if (code2 === void 0) seen2.set(value, code2 = seen2.size + 1);
    codes[i] = code2;
  }
  return { codes, bound: seen2.size + 1 };
};
var rowsABlock = 4096;
var block = (numbers4, from, end) => typeof numbers4 === "number" ? new Float64Array(end - from).fill(numbers4) : numbers4.subarray(from, end);
var addBlocks = (to, a, b) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = a[i] + b[i] + 0;
};
var subtractBlocks = (to, a, b) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = a[i] - b[i] + 0;
};
var multiplyBlocks = (to, a, b) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = a[i] * b[i] + 0;
};
var divideBlocks = (to, a, b) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = a[i] / b[i] + 0;
};
var blocks = { "+": addBlocks, "-": subtractBlocks, "*": multiplyBlocks, "/": divideBlocks };
var listOutside = (values, from, end, limit, rows2) => {
  let at = 0;
  for (let i = from; i < end; i++) if (!(Math.abs(values[i]) <= limit)) rows2[at++] = i;
  return at;
};
var stacked = (lists) => {
  const all = int32s(lists.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const rows2 of lists) {
    all.set(rows2, at);
    at += rows2.length;
  }
  return all;
};
var arithmetic = (operation, a, b, to, limit) => {
  const rows2 = int32s(rowsABlock);
  const outside = [];
  for (let from = 0; from < to.length; from += rowsABlock) {
    const end = Math.min(to.length, from + rowsABlock);
    blocks[operation](to.subarray(from, end), block(a, from, end), block(b, from, end));
    outside.push(rows2.slice(0, listOutside(to, from, end, limit, rows2)));
  }
  return stacked(outside);
};
var calculate = (formula, to) => {
  const partOf3 = (part2) => {
    if (typeof part2 === "number" || part2 instanceof Float64Array) return part2;
    const made3 = float64s(to.length);
    calculate(part2, made3);
    return made3;
  };
  if (typeof formula === "number") to.fill(formula);
  else if (formula instanceof Float64Array) to.set(formula);
  else arithmetic(formula.operation, partOf3(formula.left), partOf3(formula.right), to, Infinity);
};
var pickNumbers = (to, from, rows2) => {
  const n = rows2.length;
  for (let i = 0; i < n; i++) to[i] = from[rows2[i]];
};
var pickBits = (to, from, rows2) => {
  const n = rows2.length;
  for (let byte = 0, i = 0; i < n; byte++) {
    const end = i + 8 < n ? i + 8 : n;
    let bits = 0;
    for (let k = 0; i < end; i++, k++) bits |= (from[rows2[i] >> 3] >> (rows2[i] & 7) & 1) << k;
    to[byte] = bits;
  }
};
var addAll = (values, ids, sum, lost) => {
  const n = values.length;
  for (let i = 0; i < n; i++) {
    const group = ids[i];
    if (group === noGroup) continue;
    const x = values[i];
    const s = sum[group];
    const t = s + x;
    lost[group] = lost[group] + (Math.abs(s) >= Math.abs(x) ? s - t + x : x - t + s);
    sum[group] = t;
  }
};
var addFilled = (values, nulls, ids, sum, lost) => {
  const n = values.length;
  for (let i = 0; i < n; i++) {
    if ((nulls[i >> 3] & 1 << (i & 7)) !== 0) continue;
    const group = ids[i];
    if (group === noGroup) continue;
    const x = values[i];
    const s = sum[group];
    const t = s + x;
    lost[group] = lost[group] + (Math.abs(s) >= Math.abs(x) ? s - t + x : x - t + s);
    sum[group] = t;
  }
};
var countFilled = (ids, nulls, counts2) => {
  const n = ids.length;
  for (let i = 0; i < n; i++)
    if (ids[i] !== noGroup && (nulls === void 0 || (nulls[i >> 3] & 1 << (i & 7)) === 0)) counts2[ids[i]]++;
};
var groupTotals = (values, nulls, ids, count3, rows2) => {
  if (rows2) {
    const picked = float64s(rows2.length);
    pickNumbers(picked, values, rows2);
    const empty = nulls && bitmap(rows2.length);
    if (empty) pickBits(empty, nulls, rows2);
    return groupTotals(picked, empty, ids, count3);
  }
  const sums = float64s(count3);
  const lost = float64s(count3);
  const counts2 = int32s(count3);
  if (nulls) addFilled(values, nulls, ids, sums, lost);
  else addAll(values, ids, sums, lost);
  for (let g = 0; g < count3; g++) sums[g] = sums[g] + lost[g];
  countFilled(ids, nulls, counts2);
  return { sums, counts: counts2 };
};
var countCodes = (codes, bound) => {
  const counts2 = int32s(bound);
  const n = codes.length;
  for (let i = 0; i < n; i++) counts2[codes[i]]++;
  return counts2;
};
var firstRows = ({ codes, bound }) => {
  const first2 = int32s(bound).fill(-1);
  for (let i = codes.length - 1; i >= 0; i--) first2[codes[i]] = i;
  return first2;
};
var groupCodes = ({ codes, bound }, rows2) => {
  const idOf = int32s(bound).fill(-1);
  const ids = rows2 ? uint32s(codes.length).fill(noGroup) : uint32s(codes.length);
  const most = Math.min(bound, codes.length);
  const [first2, sizes] = [int32s(most), int32s(most)];
  const count3 = numberInOrder(codes, rows2, idOf, ids, first2, sizes);
  return { ids, count: count3, first: first2.slice(0, count3), sizes: sizes.slice(0, count3) };
};
var numberInOrder = (codes, rows2, idOf, ids, first2, sizes) => {
  const n = rows2 ? rows2.length : codes.length;
  let count3 = 0;
  for (let i = 0; i < n; i++) {
    const row = rows2 ? rows2[i] : i;
    const code2 = codes[row];
    if (idOf[code2] < 0) {
      first2[count3] = i;
      idOf[code2] = count3++;
    }
    ids[row] = idOf[code2];
    sizes[ids[row]]++;
  }
  return count3;
};
var groupPairs = (a, b, rows2) => {
  const codes = uint32s(a.codes.length);
  for (let i = 0; i < codes.length; i++) codes[i] = a.codes[i] * b.bound + b.codes[i];
  return groupCodes({ codes, bound: a.bound * b.bound }, rows2);
};
var rowsOfCodes = (codes, keep, wanted) => {
  const rows2 = new IntList();
  for (let i = 0; i < codes.length; i++) if (keep[codes[i]] === wanted) rows2.push(i);
  return rows2.done();
};
var matchRows = (codes, rows2, met, to) => {
  const n = codes.length;
  let missing2 = 0;
  for (let i = 0; i < n; i++) {
    const code2 = codes[i];
    const row = rows2[code2];
    met[code2] = 1;
    to[i] = row;
    missing2 += row >>> 31;
  }
  return missing2;
};
var floatCodes = (values, below) => {
  const n = values.length;
  const codes = uint32s(n);
  for (let i = 0; i < n; i++) codes[i] = values[i] - below;
  return codes;
};
var lookUp = (codes, table, to) => {
  const n = codes.length;
  for (let i = 0; i < n; i++) to[i] = table[codes[i]];
};
var pairGroups = (a, b) => {
  const ids = uint32s(a.length);
  const seen2 = /* @__PURE__ */ new Map();
  const first2 = new IntList();
  let factor = 1;
  for (let i = 0; i < b.length; i++) factor = Math.max(factor, b[i] + 1);
  for (let i = 0; i < ids.length; i++) {
    const key = a[i] * factor + b[i];
    let id = seen2.get(key);
    if (id === void 0) {
      id = first2.length;
      seen2.set(key, id);
      first2.push(i);
    }
    ids[i] = id;
  }
  return { ids, count: first2.length, first: first2.done() };
};
var compareFloats = (values, constant, outcomes) => {
  const [below, at, above] = [Number(outcomes.below), Number(outcomes.at), Number(outcomes.above)];
  const mask = uint8s(values.length);
  for (let i = 0; i < mask.length; i++) {
    const value = values[i];
    if (value < constant) mask[i] = below;
    else mask[i] = value > constant ? above : at;
  }
  return mask;
};
var chosenRows = (mask, wanted) => {
  const rows2 = new IntList();
  for (let i = 0; i < mask.length; i++) if (mask[i] === wanted) rows2.push(i);
  return rows2.done();
};
var digitBits = 11;
var digitCount = 1 << digitBits;
var sortRows = (order2, keys, bits) => {
  let rows2 = order2 ?? Int32Array.from({ length: keys.length }, (_, i) => i);
  for (let shift2 = 0; shift2 < bits; shift2 += digitBits) {
    const mask = 2 ** Math.min(digitBits, bits - shift2) - 1;
    const counts2 = float64s(digitCount + 1);
    for (let i = 0; i < keys.length; i++) counts2[(keys[i] >>> shift2 & mask) + 1]++;
    for (let digit = 1; digit <= digitCount; digit++) counts2[digit] = counts2[digit] + counts2[digit - 1];
    const sorted = int32s(rows2.length);
    for (let i = 0; i < rows2.length; i++) {
      const row = rows2[i];
      sorted[counts2[keys[row] >>> shift2 & mask]++] = row;
    }
    rows2 = sorted;
  }
  return rows2;
};
var textCodes = ({ starts, ends: ends2, bytes }) => {
  const dictionary2 = new ReferenceDictionary();
  const codes = uint32s(starts.length);
  let last = 0;
  for (let i = 0; i < codes.length; i++) {
    const code2 = dictionary2.codeOf(bytes, starts[i], ends2[i], last);
    codes[i] = code2;
    if (code2 > 0) last = code2;
  }
  return { codes, bound: dictionary2.size };
};
var tableReference = {
  arithmetic,
  calculate,
  groupTotals,
  countCodes,
  firstRows,
  groupCodes,
  groupPairs,
  rowsOfCodes,
  lookUp,
  matchRows,
  floatCodes,
  numberCodes,
  textCodes,
  pairGroups,
  compareFloats,
  chosenRows,
  sortRows
};

// core/src/kernels/kernels.ts
var referenceKernels = {
  ...tableReference,
  csv: referenceCsv,
  csvOutput: csvOutputReference
};
var used = referenceKernels;
var kernels = () => used;
var useKernels = (others) => {
  used = others;
};

// core/src/kernels/module.generated.ts
var kernelBytes = "AGFzbQEAAAABugEYYAR/f39/AX9gBX9/f39/AX9gAX8Bf2AAAGADf39/AX9gBX9/f39/AGAAAX9gB39/f39/f38Bf2AEf39/fwBgAX4AYAF+AX9gAn9+AGAFf397f38Bf2AHf398f39/fwBgAX8AYAJ/fwF/YAZ/f39/f38AYAl/f39/f39/f38Bf2ADf39/AXxgBn9/f39/fwF/YAt/f39/f39/f39/fwF/YAR/f3x/AGAFf398f38Bf2AGf39/f398AX8CFgEGbWVtb3J5C291dE9mTWVtb3J5AAMDKCcCCQoEAAsADAMFDQEOBgEABgIPAhAEBwcRARIAEwEIFBUACAMWFwUFAwEAAQZEDH8BQQALfwFBAAt/AUEAC38BQQALfAFEAAAAAAAAAAALfwFBAAt/AUEAC38BQQALfgFCAAt/AUEAC38BQQALfwBBDAsHnwMjCGFsbG9jYXRlAAEEbWFyawAOB3JlbGVhc2UADQ5tYWtlRGljdGlvbmFyeQARDmRpY3Rpb25hcnlTaXplABIPZGljdGlvbmFyeUJ5dGVzABQNZGljdGlvbmFyeUVuZAATBmNvZGVPZgAWB2NvZGVzT2YAFQNjdXQAGQRuZXh0AwIDb2RkAwMHbnVtYmVycwAYBXRleHRzABcIYmVnaW5JZHMAJApjb3VudENvZGVzACMJZmlyc3RSb3dzACIKZmxvYXRDb2RlcwAhCmlkc0luT3JkZXIAIAZsb29rVXAAHwltYXRjaFJvd3MAHgtyb3dzT2ZDb2RlcwAdC251bWJlckNvZGVzABAHcGFpcklkcwAPDWNvbXBhcmVGbG9hdHMACwpjaG9zZW5Sb3dzAAwIc29ydFJvd3MACgphcml0aG1ldGljACYJYWRkVG90YWxzACcJb3V0c2lkZU9mACUQYmxvY2tDb2x1bW5CeXRlcwMLBXdlYXZlABwKd292ZW5CeXRlcwAbDHdyaXRlTnVtYmVycwAaBm1lbW9yeQIACAEJDAEDCvo7J2cBA38jACIBIABqQd8AakFwcSQAPwAiACMAQf//A2pBEHYiAkgEQCACQf//AyAAIABBAXVqIgMgA0H//wNOGyIDIAIgA0obIABrQABBAEgEfyACIABrQABBAEgFQQALBEAQAAsLIAELJwBCwAAgAH0kCEEBIACndCQJIwlBBHQQASQHIwdBACMJQQR0/AsAC5ICAQV/IwcgAEKV+Kn6l7fem55/fiMIiKciAkEEdGohAQNAIAEoAggEfyABKQMAIABSBUEACwRAIwcgAkEBaiMJQQFrcSICQQR0aiEBDAELCyABKAIIIgIEQCACDwsjCkEBaiQKIAEgADcDACABIwo2AggjCSMKQQF0SQRAIwchASMHIwlBBHRqIQRCwgAjCH0QAgNAIAEgBEkEQCABKAIIIgUEQCMHIAEpAwAiAEKV+Kn6l7fem55/fiMIiKciA0EEdGohAgNAIAIoAggEfyACKQMAIABSBUEACwRAIwcgA0EBaiMJQQFrcSIDQQR0aiECDAELCyACIAA3AwAgAiAFNgIICyABQRBqIQEMAQsLCyMKC7YDAgZ/AX4gASEFIAKtQpX4qfqXt96bnn9+IQkDQCADQQhqIgEgAk0EQCAJIAMgBWopAwCFQpX4qfqXt96bnn9+IgkgCUIdiIUhCSABIQMMAQsLIAIgA2siAQR+IAkgAyAFaikDAEIBIAGtQgOGhkIBfYOFQpX4qfqXt96bnn9+BSAJC0IgiKciAyAAKAIEcSEBA0AgACgCACABQQJ0aigCACIGBEAgACgCHCAGQQN0aigCACADRgR/IAAgBiAFIAIQBQVBAAsEQCAGDwUgACgCBCABQQFqcSEBDAILAAsLIAAgAyAFIAIQByEGIAAoAgAgAUECdGogBjYCACAAIAAoAghBAWo2AgggACgCBCIBIAAoAghBAXRJBEAgAUECdEEDaiIDQQFqQQJ0IgEQASIFQQAgAfwLAEEBIQIDQCACIAAoAixJBEAgACgCHCACQQN0aiIHKAIEIgEgBGtBEEsgASEEBEAgBygCACADcSEBA0AgBSABQQJ0aigCAARAIAFBAWogA3EhAQwBCwsgBSABQQJ0aiACNgIACyACQQFqIQIMAQsLIAAgBTYCACAAIAM2AgQLIAYLjwEBAn8gACgCHCABQQN0aiIFQQhrKAIEIQEgBSgCBCABayADRgR/IAAoAiQgAWohAQJ/A0AgBEEIaiIAIANNBEBBACABIARqKQMAIAIgBGopAwBSDQIaIAAhBAwBCwsgAyAEayIABH5CASAArUIDhoZCAX0gASAEaikDACACIARqKQMAhYMFQgALUAsFQQALCyYBAX8gAEEYIAGndCICEAE2AgwgACgCDEEAIAL8CwAgACABNwMQC8oBAQV/IAAoAiwiBCAAKAIgIgVGBEAgBUEEdBABIgUgACgCHCAAKAIgQQN0/AoAACAAIAU2AhwgACAAKAIgQQF0NgIgCyAAKAIcIARBAWtBA3RqKAIEIgcgA2oiBSAAKAIoIgZLBEAgBSAGQQF0IgYgBSAGSxsiBhABIgggACgCJCAH/AoAACAAIAg2AiQgACAGNgIoCyAAKAIkIAdqIAIgA/wKAAAgACgCHCAEQQN0aiICIAE2AgAgAiAFNgIEIAAgBEEBajYCLCAEC78CAgJ+BX8gAEEAIAMgBBAHIQcgASAC/QsEACABIAc2AhAgASAENgIUIAAgACgCGEEBajYCGCAAKAIYIAApAxAiBUICfad2QQNPBEAgACgCDCIBQRggBad0aiEIIAAgBUICQgEgBUIQVBt8EAYDQCABIAhJBEAgASgCEARAQQEgACkDECIFp3RBAWshCSAAKAIMIgsgASgCFCIKrUI4hiAB/QAEACIC/R0AhUKV+Kn6l7fem55/fiIGQiCIIAaFIAL9HQGFQpP757KG17/0Vn5CwAAgBX2IpyIDQRhsaiEEA0AgBCgCEAR/IAQoAhQgCkcEf0EBBSAE/QAEACAC/VH9UwsFQQALBEAgCyADQQFqIAlxIgNBGGxqIQQMAQsLIAQgAv0LBAAgBCABKQMQNwMQCyABQRhqIQEMAQsLCyAHCwcAQcAJJAALowMCB38BfiACQQN0IgYQASEHIAYQAQNAIAIgBUoEQCAHIAVBA3RqIAEgBAR/IAUFIAAgBUECdGooAgALIgZBAnRqKAIANgIAIAcgBUEDdGogBjYCBCAFQQFqIQUMAQsLIAchBCEBIAMhBkGAwAAQASEIA0AgBiAJSwRAIAhBAEGAwAD8CwBBAUELIAYgCWsiAyADQQtLG3RBAWshB0EAIQUDQCACIAVKBEAgCCAEIAVBA3RqKAIAIAl2IAdxQQJ0aiIDIAMoAgBBAWo2AgAgBUEBaiEFDAELC0EAIQNBACEFA0AgBUGAEEkEQCAIIAVBAnRqIgooAgAhCyAKIAM2AgAgAyALaiEDIAVBAWohBQwBCwtBACEDA0AgAiADSgRAIAggBCADQQN0aikDACIMpyAJdiAHcUECdGoiBSgCACEKIAUgCkEBajYCACABIApBA3RqIAw3AwAgA0EBaiEDDAELCyABIAQhASEEIAlBC2ohCQwBCwtBACEDA0AgAiADSgRAIAAgA0ECdGogBCADQQN0aigCBDYCACADQQFqIQMMAQsLCz8CAX8BfANAIAEgB0oEQCAGIAdqIAMgBSAEIAAgB0EDdGorAwAiCCACZBsgAiAIZBs6AAAgB0EBaiEHDAELCws+AQJ/A0AgASAFSgRAIAQgBkECdGogAyAFajYCACAGIAAgBWotAAAgAkH/AXFGaiEGIAVBAWohBQwBCwsgBgsGACAAJAALBAAjAAtlAQR/QQAkCkIMEAIDQCACIAVKBEAjCiEGIAVBAnQiByABajUCACAAIAdqNQIAQiCGhBADIQgjCiAGRwRAIAQgBkECdGogBTYCAAsgAyAHaiAIQQFrNgIAIAVBAWohBQwBCwsjCgtnAQF/QQAkCkIMEAIDQCACIARKBEAgAyAEQQJ0aiABBH8gASAEQQN1ai0AAEEBIARBB3F0cQVBAAsEf0EABSAAIARBA3RqKwMARAAAAAAAAAAAoL0QAws2AgAgBEEBaiEEDAELCyMKC3QBAX9BMBABIgBB/wc2AgQgAEGAIBABNgIAIAAoAgBBAEGAIPwLACAAQQA2AgggAEIIEAYgAEEANgIYIABBgAQ2AiAgAEGAIBABNgIcIAAoAhxCADcDACAAQYDAADYCKCAAQYDAABABNgIkIABBATYCLCAACwcAIAAoAiwLEAAgACgCHCABQQN0aigCBAsHACAAKAIkC88CAwJ+CH8BeyAAKAIMIQwgACkDECEGA0AgBCANSgRAIAIoAgAiCiABaiELQQAhCSACKAIEIAprIg9BEE0EQCAPBEBBASAGp3RBAWshDiAMIA+tQjiGIAv9AAQAQZAIIA9r/QAEAP1OIhD9HQCFQpX4qfqXt96bnn9+IgdCIIggB4UgEP0dAYVCk/vnsobXv/RWfkLAACAGfYinIglBGGxqIQoDQCAKKAIQBH8gCigCFCAPRwR/QQEFIAr9AAQAIBD9Uf1TCwVBAAsEQCAMIAlBAWogDnEiCUEYbGohCgwBCwsgCigCECIJRQRAIAAgCiAQIAsgDxAIIQkgACgCDCEMIAApAxAhBgsLBSAIBH8gACAIIAsgDxAFBUEAC0UEQCAAIAsgDxAEIQgLIAghCQsgBSAJNgIAIA1BAWohDSACIANqIQIgBUEEaiEFDAELCwvmAQMEfwF7An4gAkUEQEEADwsgAkEQSwRAIAAgASACEAQPC0EBIAApAxAiCKd0QQFrIQUgACgCDCIGIAIiA61COIYgAf0ABABBkAggAmv9AAQA/U4iB/0dAIVClfip+pe33puef34iCUIgiCAJhSAH/R0BhUKT++eyhte/9FZ+QsAAIAh9iKciAkEYbGohBANAIAQoAhAEfyAEKAIUIANHBH9BAQUgBP0ABAAgB/1R/VMLBUEACwRAIAYgAkEBaiAFcSICQRhsaiEEDAELCyAEKAIQIgIEfyACBSAAIAQgByABIAMQCAsLnwEBBX8DQCADIApKBEAgASgCBCABKAIAIgtrIQhBACEHA0AgB0HAAEkgByAISXEEQCAEIAlqIAdqIAAgC2ogB2r9AAQA/QsEACAHQRBqIQcMAQsLIAhBwABLBEAgBCAJakFAayAAIAtqQUBrIAhBQGr8CgAACyAFIAggCWoiCSAGajYCACAKQQFqIQogASACaiEBIAVBBGohBQwBCwsgCQuEBgQLfwF+AXsBfANAIAMgDkoEQEEAIQ1EAAAAAAAAAAAhFCAAIAEoAgBqIgggACABKAIEaiIHRgRAQQEhDQUgByAILQAAQS1GIg8gCGoiEGsiC0EBa0EQSQRAIBAtAABBMEYhESALIBBqQRBrIgr9AAQA/QwwMDAwMDAwMDAwMDAwMDAw/XEgC0GgCWr9AAQA/U4iE/0MCQkJCQkJCQkJCQkJCQkJCf0o/WQiCUEARyQFQRAhCAJAIwUEQEEAIQdBASAJaCIIQQ9GIAkgCUEBa3EbBH9BAQUgCCAKai0AACAEQf8BcUcLDQEgE/0MAAECAwQFBgcICQoLDA0OD/0MAAECAwQFBgcICQoLDA0ODyAI/Q/9Kv1u/Q4hEwVBACEHIAtBD0sNAQsgCCALakERSyARcQ0AIBP9DP8A/wD/AP8A/wD/AP8A/wD9Tv0MCgAKAAoACgAKAAoACgAKAP2VASATQQj9jQH9jgH9DGQAAQBkAAEAZAABAGQAAQD9ugEiEyAT/YUB/QwQJwEAECcBABAnAQAQJwEA/boB/R0AIhJC/////w+DQoDC1y9+IBJCIId8uSQEIwUEQCMEQQAgCGtBA3RBmAlqKwMAoyQEC0EBIQcLBUIAIRJBfyEIQQAhBwJ/A0AgByALSQRAIAcgEGotAAAiCkEwa0H/AXEiCUEJTQRAIAmtIBJCCn58IRIFQQAgCiAEQf8BcUYgCEEASHFFDQMaIAchCAsgB0EBaiEHDAELCyAIQQBOJAUgCCALIwUbIQlBAEEBIAggC0EBa0YgCyMFayIHRSAHQQ9LcgR/QQEFIAlBAUsEfyAQLQAAQTBGBUEACwsbDQAaIBK6JAQjBQRAIwQgCyAIa0EDdEGYCGorAwCjJAQLQQELIQcLIAcEQCAMIwVBAXRyIQwjBJojBCMERAAAAAAAAAAAYiAPcRshFAVBAiENCwsgDEEBciAMIA0bIQwgBiAOaiANOgAAIAUgFDkDACAOQQFqIQ4gASACaiEBIAVBCGohBQwBCwsgDAvaDAMKfwJ+A3sgBv0PIRUgByEKIAX9DyEWA0AgDEHAAEkEQCAUIAAgDGr9AAQAIhcgFv0jIBf9DAoKCgoKCgoKCgoKCgoKCgr9I/1Q/WStIAythoQhFCAMQRBqIQwMAQsLIBQhE0EAJANBACQCQQAhDAJAAn8DQCABIAxLBEAgACAMav0ABAAgFf0j/WQiCwRAIAwgC2hqIgsgASABIAtLGwwDCyAMQRBqIQwMAQsLIAELIAFPBEAgCCELQQAhCANAIAEgDUsEQCAAIA1qIQxCACEUQQAhCQNAIAlBwABJBEAgFCAJIAxq/QAEACIXIBb9IyAX/QwKCgoKCgoKCgoKCgoKCgoK/SP9UP1krSAJrYaEIRQgCUEQaiEJDAELCyAUe6chDkEAIQkDQCAJIA5JBEAgCyAIIAlqQQJ0aiEPQQAhDANAIAxBIEkEQCAMIA9qIA0gFHqnajYCACAUIBRCAX2DIRQgDEEEaiEMDAELCyAJQQhqIQkMAQsLIAggDmohCCANQUBrIQ0MAQsLA0AgCAR/IAsgCEEBa0ECdGooAgAgAU8FQQALBEAgCEEBayEIDAELCyAIIQwgCiEIQQAhCUEAIQ1BACQBAkADQCMBIARIIAMgDWogDE1xBEAgCSEKQQAhD0EAIQ4DQCADIA5LBEAgCyANIA5qQQJ0aigCACEQIAggCTYCACAIIBA2AgQgCEEIaiEIIA8gACAQai0AAEEKRiAOQQFqIg4gA0ZHciEPIBBBAWohCQwBCwsgCUEBayIOIAhBCGsoAgBLIhAEfyAAIA5qQQFrLQAAQQ1GBSAQC0EARyEQIAhBBGsgDiAQazYCACAPBH9BAQUgA0EBayAOIBBrIAprRgsEQEEBJAMgCiEJDAMLIwFBAWokASADIA1qIQ0MAQsLIwEgBEgEQANAIAwgDUsEQAJAIAAgCyANQQJ0aigCAGotAABBCkYEQEEBJAMMAQsgDUEBaiENDAILCwsLCyAHIwEiDiADbEEDdGohCkEAIAIjAxtFIAQgDkZyDQELAkADQCAEIA5KIAEgCUtxBEAgCSEHQQAhEUEAIRBBACENA0AgDUUEQCAAIAdqLQAAIAZB/wFxRiABIAdLcQRAIAdBAWohCAJ/A0AgASAISwRAIAAgCGr9AAQAIBX9I/1kIgsEQCAIIAtoaiIIIAEgASAISxsMAwsgCEEQaiEIDAELCyABCyIIIQ8CfwNAQX8gASAITQ0BGiAIQQFqIAFPBH9BAQUgACAIai0AASAGQf8BcUcLRQRAIAhBAmohDAJ/A0AgASAMSwRAIAAgDGr9AAQAIBX9I/1kIgsEQCAMIAtoaiILIAEgASALSxsMAwsgDEEQaiEMDAELCyABCyELIAAgD2oiDCAGOgAAIAxBAWogACAIakECaiALIAhrIghBAmv8CgAAIA8gCEEBa2ohDyALIQgMAQsLIAhBAWokAiAPCyEMIAJFIwIgAU9xIAxBf0ZyBEAgAkEARyQDDAcLIAdBAWohByMCIghBAWogAUkEfyAAIAhqLQAAQQ1GBUEACwR/IAAgCGotAAFBCkYFQQALBEAgCEEBaiEICyABIAhLBH8gACAIai0AACAFQf8BcUcFQQALBH8gACAIai0AAEEKRwVBAAsNBQUgByEIA0AgASAISwRAAkAgCCASa0HAAE8EQCAIQUBxIhIgAGohC0IAIRRBACEMA0AgDEHAAEkEQCAUIAsgDGr9AAQAIhcgFv0jIBf9DAoKCgoKCgoKCgoKCgoKCgr9I/1Q/WStIAythoQhFCAMQRBqIQwMAQsLIBQhEwsgEyAIIBJrrYgiFEIAUgRAIAggFHqnaiEIDAELIBJBQGshCAwCCwsLIAEgCCABIAhJGyIIQQFrIAggByAISQR/IAEgCE0Ef0EBBSAAIAhqLQAAQQpGCwVBAAsEfyAAIAhqQQFrLQAAQQ1GBUEACxshDAsgASAITQR/QQEFIAAgCGotAABBCkYLIQ0gAkUgASAITXENBSADIBBGBH9BAQUgEEEBaiADR0EAIA0bCw0EIAogBzYCACAKIAw2AgQgCkEIaiEKIBBBAWohECARIAwgB2tqIREgCEEBaiEHDAELCyARRQ0CIAchCSAOQQFqIQ4MAQsLIAkgASABIAlLGyQCIA4PC0EBJAMLIAkkAiAOC/oCAwR/A34CfCADIQUDQCACIAdKBEAgAQR/IAEgB0EDdWotAABBASAHQQdxdHEFQQALRQRAQQAhBgJAIAAgB0EDdGorAwAiDUQAAAAAAIjDQKKeIgyZRAAANCb1awxDYwR/IAxEAAAAAACIw0CjIA1iBUEBCw0AIAxEAAAAAAAAAABjBEAgBUEtOgAAIAVBAWohBQsgDJn8ByILQpDOAIAhCUEBIQhCCiEKA0AgCEEQSSAJIApacQRAIAhBAWohCCAKQgp+IQoMAQsLIAUgCGohBgNAIAUgBkkEQCAGQQFrIgYgCUIKgkIwfDwAACAJQgqAIQkMAQsLIAUgCGohBiALQpDOAIIiClANACAGQS46AAAgBkEBaiEFQugHIQkDQCAKQgBSBEAgBSAKIAmAQjB8PAAAIAogCYIhCiAFQQFqIQUgCUIKgCEJDAELCyAFIQYLIAYiBUUEQCAHDwsLIAQgB0ECdGogBSADazYCACAHQQFqIQcMAQsLIAILjAECBH8BfANAIAEgBEoEQCAAIARBDGxqIgUoAggEQEEAIQMDQCACIANKBEAgByAFKAIEIAUoAgggA0ECdGooAgBBAnRqIgYoAgQgBigCAGu4oCEHIANBAWohAwwBCwsFIAcgBSgCBCACQQFrQQJ0aigCALigIQcLIARBAWohBAwBCwsgByABtyACt6KgC5kCAQh/IAMhBANAIAIgB0oEQEEAIQkDQCABIAlKBEAgACAJQQxsaiIFKAIIIgYEQCAFKAIEIAYgB0ECdGooAgBBAnRqIggoAgAhBiAIKAIEIQgFIAUoAgQiBiAHQQJ0aigCACEIIAdBAEoEfyAGIAdBAWtBAnRqKAIABUEACyEGCyAGIAUoAgBqIQsgCCAGayEKQQAhBQNAIAVBwABJIAUgCklxBEAgBCAFaiAFIAtq/QAEAP0LBAAgBUEQaiEFDAELCyAKQcAASwRAIARBQGsgC0FAayAKQUBq/AoAAAsgBCAIIAZraiIEQSw6AAAgBEEBaiEEIAlBAWohCQwBCwsgBEEBa0EKOgAAIAdBAWohBwwBCwsgBCADawtHAQJ/A0AgASAGSgRAIAUgB0ECdGogBCAGajYCACAHIAIgACAGQQJ0aigCAGotAAAgA0H/AXFGaiEHIAZBAWohBgwBCwsgBwtSAQV/A0AgASAFSgRAIAIgBUECdCIIIABqKAIAIglBAnRqKAIAIQYgAyAJakEBOgAAIAQgCGogBjYCACAHIAZBH3ZqIQcgBUEBaiEFDAELCyAHCzYBAn8DQCABIARKBEAgBEECdCIFIANqIAIgACAFaigCAEECdGooAgA2AgAgBEEBaiEEDAELCwulAQEEfwNAIAQgDEoEQCAHIAMEfyADIAxBAnRqKAIAIAVrBSAMC0ECdCINIAJqKAIAIAAgDWooAgAgAWxqQQJ0aiIOKAIAIgtBAEgEQCMGIgtBAWokBiAOIAs2AgAgC0ECdCIOIAlqIAYgDGo2AgAgCiAOakEANgIACyAIIA1qIAs2AgAgCiALQQJ0aiILIAsoAgBBAWo2AgAgDEEBaiEMDAELCyMGC0ECAX8BeyAC/RQhBQNAIAEgBEsEQCADIARBAnRqIAAgBEEDdGr9AAQAIAX98QH9/QH9WwMAACAEQQJqIQQMAQsLC0cBA38DQCABIAVKBEAgAyAAIAVBAnRqKAIAQQJ0aiIGKAIAQQBIBEAgBiACIAVqNgIAIARBAWohBAsgBUEBaiEFDAELCyAECz8BAn8DQCABIARKBEAgAiAEQQNxIANsaiAAIARBAnRqKAIAQQJ0aiIFIAUoAgBBAWo2AgAgBEEBaiEEDAELCwsGAEEAJAYLPwECfwNAIAEgBUoEQCAEIAZBAnRqIAMgBWo2AgAgBiAAIAVBA3RqKwMAmSACZUVqIQYgBUEBaiEFDAELCyAGC7MDAQN7IAX9FCEH/Qz/////////////////////IQYgBEEDdCEEIAAEQCAAQQFGBEBBACEAA0AgACAESQRAIAAgA2ogACABav0ABAAgACACav0ABAD98QH9DAAAAAAAAAAAAAAAAAAAAAD98AEiCP0LBAAgBiAI/ewBIAf9S/1OIQYgAEEQaiEADAELCwUgAEECRgRAQQAhAANAIAAgBEkEQCAAIANqIAAgAWr9AAQAIAAgAmr9AAQA/fIB/QwAAAAAAAAAAAAAAAAAAAAA/fABIgj9CwQAIAYgCP3sASAH/Uv9TiEGIABBEGohAAwBCwsFQQAhAANAIAAgBEkEQCAAIANqIAAgAWr9AAQAIAAgAmr9AAQA/fMB/QwAAAAAAAAAAAAAAAAAAAAA/fABIgj9CwQAIAYgCP3sASAH/Uv9TiEGIABBEGohAAwBCwsLCwVBACEAA0AgACAESQRAIAAgA2ogACABav0ABAAgACACav0ABAD98AH9DAAAAAAAAAAAAAAAAAAAAAD98AEiCP0LBAAgBiAI/ewBIAf9S/1OIQYgAEEQaiEADAELCwsgBv3DAUULmgECAn8EfANAIAMgBUoEQCABBH8gASAFQQN1ai0AAEEBIAVBB3F0cUEARwVBAAtFBEAgBCACIAVBAnRqKAIAQQFqQRhsaiIGKwMAIgcgACAFQQN0aisDACIKoCIIIAehIQkgBiAGKwMIIAcgCCAJoaEgCiAJoaCgOQMIIAYgCDkDACAGIAYoAhBBAWo2AhALIAVBAWohBQwBCwsLC60BAwBBgAgLEP////////////////////8AQaYIC3rwPwAAAAAAACRAAAAAAAAAWUAAAAAAAECPQAAAAAAAiMNAAAAAAABq+EAAAAAAgIQuQQAAAADQEmNBAAAAAITXl0EAAAAAZc3NQQAAACBfoAJCAAAA6HZIN0IAAACilBptQgAAQOWcMKJCAACQHsS81kIAADQm9WsMQwBBsAkLEP////////////////////8=";

// core/src/kernels/instance.ts
var outOfMemory = () => {
  throw new RangeError("Array buffer allocation failed");
};
var compiled;
var Instance = class {
  run;
  whole = new Uint8Array(0);
  constructor() {
    compiled ??= new WebAssembly.Module(Uint8Array.from(atob(kernelBytes), (sign2) => sign2.charCodeAt(0)));
    const imports = { memory: { outOfMemory } };
    this.run = new WebAssembly.Instance(compiled, imports).exports;
  }
  /** All of the memory; views on it end when it grows. */
  get bytes() {
    if (this.whole.buffer !== this.run.memory.buffer) this.whole = new Uint8Array(this.run.memory.buffer);
    return this.whole;
  }
  /** The address of a copy of a buffer. */
  put(buffer) {
    const at = this.run.allocate(buffer.byteLength);
    this.bytes.set(new Uint8Array(buffer.buffer, buffer.byteOffset, buffer.byteLength), at);
    return at;
  }
  /** The address of `bytes` bytes that all hold `value`. */
  filled(bytes, value) {
    const at = this.run.allocate(bytes);
    this.bytes.fill(value, at, at + bytes);
    return at;
  }
  uint32s(at, length) {
    return new Uint32Array(this.run.memory.buffer, at, length);
  }
  int32s(at, length) {
    return new Int32Array(this.run.memory.buffer, at, length);
  }
  float64s(at, length) {
    return new Float64Array(this.run.memory.buffer, at, length);
  }
};

// core/src/kernels/csv-compiled.ts
var CompiledCsv = class {
  next = 0;
  source;
  layout;
  instance = new Instance();
  most;
  size = bytesABlock;
  block;
  rows = 0;
  cuts;
  values;
  flagsAt;
  codes;
  out;
  /** Of the breaks of a block. */
  places;
  constructor(source, layout7) {
    this.source = source;
    this.layout = layout7;
    this.most = Math.max(1, Math.floor(cellsABlock / layout7.width));
    const { allocate } = this.instance.run;
    this.cuts = allocate(this.most * layout7.width * 8);
    this.values = allocate(this.most * 8);
    this.flagsAt = allocate(this.most);
    this.codes = allocate(this.most * 4);
    this.block = allocate(this.size);
    this.out = allocate(this.size);
    this.places = allocate(this.size * 4 + 64);
  }
  cut(from) {
    const { run } = this.instance;
    const { width, delimiter, quote: quote2 } = this.layout;
    for (; ; ) {
      const part2 = this.source.block(from, this.size);
      this.instance.bytes.set(part2, this.block);
      const last = from + part2.length === this.source.size;
      this.rows = run.cut(this.block, part2.length, last, width, this.most, delimiter, quote2, this.cuts, this.places);
      this.next = from + run.next.value;
      if (this.rows > 0 || Boolean(run.odd.value) || this.size >= longestRow) return this.rows;
      this.size *= 4;
      this.block = run.allocate(this.size);
      this.out = run.allocate(this.size);
      this.places = run.allocate(this.size * 4 + 64);
    }
  }
  get stride() {
    return this.layout.width * 8;
  }
  cutsOf(column) {
    return this.cuts + column * 8;
  }
  numbers(column, mark, values, at) {
    const { instance, rows: rows2 } = this;
    const { run } = instance;
    const found2 = run.numbers(this.block, this.cutsOf(column), this.stride, rows2, mark, this.values, this.flagsAt);
    values.set(instance.float64s(this.values, rows2), at);
    return found2;
  }
  get flags() {
    return this.instance.bytes.subarray(this.flagsAt, this.flagsAt + this.rows);
  }
  text(column, row) {
    const [start = 0, end = 0] = this.instance.uint32s(this.cutsOf(column) + row * this.stride, 2);
    return this.source.decoder(this.instance.bytes)(this.block + start, this.block + end);
  }
  firstFilled(column) {
    const cuts = this.instance.uint32s(this.cuts, this.rows * this.layout.width * 2);
    for (let i = 0, k = column * 2; i < this.rows; i++, k += this.layout.width * 2)
      if (cuts[k] !== cuts[k + 1]) return i;
    return -1;
  }
  texts(column, before) {
    const { instance, rows: rows2, stride } = this;
    const length = instance.run.texts(this.block, this.cutsOf(column), stride, rows2, this.out, this.codes, before);
    return { bytes: instance.bytes.subarray(this.out, this.out + length), ends: instance.uint32s(this.codes, rows2) };
  }
  dictionary() {
    const { instance } = this;
    const { run } = instance;
    const at = run.makeDictionary();
    return {
      get size() {
        return run.dictionarySize(at);
      },
      codes: (column, codes, from) => {
        run.codesOf(at, this.block, this.cutsOf(column), this.stride, this.rows, this.codes);
        codes.set(instance.uint32s(this.codes, this.rows), from);
      },
      codeOf: (text3) => {
        const before = run.mark();
        const bytes = run.allocate(text3.length);
        instance.bytes.set(text3, bytes);
        const known3 = run.dictionarySize(at);
        const code2 = run.codeOf(at, bytes, text3.length);
        if (run.dictionarySize(at) === known3) run.release(before);
        return code2;
      },
      codesOf: (texts) => codesOfTexts(instance, at, texts),
      texts: () => textsOf2(instance, at)
    };
  }
};
var codesOfTexts = (instance, dictionary2, { bytes, ends: ends2 }) => {
  const { run } = instance;
  const [block2, cuts, codes] = [instance.put(bytes), run.allocate(ends2.length * 8), run.allocate(ends2.length * 4)];
  const places3 = instance.uint32s(cuts, ends2.length * 2);
  for (let i = 0, start = 0; i < ends2.length; i++) {
    places3[i * 2] = start;
    places3[i * 2 + 1] = start = ends2[i];
  }
  run.codesOf(dictionary2, block2, cuts, 8, ends2.length, codes);
  return instance.uint32s(codes, ends2.length).slice();
};
var textsOf2 = (instance, dictionary2) => {
  const { run } = instance;
  const ends2 = uint32s(run.dictionarySize(dictionary2));
  for (let code2 = 1; code2 < ends2.length; code2++) ends2[code2] = run.dictionaryEnd(dictionary2, code2);
  const from = run.dictionaryBytes(dictionary2);
  return { bytes: instance.bytes.slice(from, from + (ends2.at(-1) ?? 0)), ends: ends2 };
};
var compiledCsv = (source, layout7) => new CompiledCsv(source, layout7);

// core/src/kernels/csv-output-compiled.ts
var mostOfANumber = 24;
var BlockColumn = class {
  instance;
  column;
  at;
  bytes = 0;
  room = 0;
  ends = 0;
  codes = 0;
  values = 0;
  nulls = 0;
  constructor(instance, column, at) {
    this.instance = instance;
    this.column = column;
    this.at = at;
    const { allocate } = instance.run;
    if (column.form === "coded") {
      this.bytes = instance.put(column.words.bytes);
      const ends2 = new Uint32Array(column.words.ends.length + 1);
      ends2.set(column.words.ends, 1);
      this.ends = instance.put(ends2);
      this.codes = allocate(rowsAnOutput * 4);
      return;
    }
    this.ends = allocate(rowsAnOutput * 4);
    if (column.form === "texts") return;
    this.values = allocate(rowsAnOutput * 8);
    this.nulls = allocate(rowsAnOutput / 8);
    this.reserve(rowsAnOutput * mostOfANumber);
  }
  reserve(bytes) {
    if (bytes <= this.room) return;
    this.room = bytes;
    this.bytes = this.instance.run.allocate(bytes);
  }
  fill(from, to) {
    const { instance, column, at } = this;
    if (column.form === "coded") instance.uint32s(this.codes, to - from).set(column.codes.subarray(from, to));
    else if (column.form === "texts") this.take(column.texts(from, to));
    else this.numbers(column, from, to);
    instance.uint32s(at, 3).set([this.bytes, this.ends, this.codes]);
  }
  take({ bytes, ends: ends2 }) {
    this.reserve(bytes.length);
    this.instance.bytes.set(bytes, this.bytes);
    this.instance.uint32s(this.ends, ends2.length).set(ends2);
  }
  numbers(column, from, to) {
    const { instance } = this;
    const { values, nulls, write: write2 } = column;
    instance.float64s(this.values, to - from).set(values.subarray(from, to));
    if (nulls) instance.bytes.set(nulls.subarray(from >> 3, to + 7 >> 3), this.nulls);
    const written5 = instance.run.writeNumbers(this.values, nulls ? this.nulls : 0, to - from, this.bytes, this.ends);
    if (written5 === to - from) return;
    this.take(
      textsOf(Array.from(values.subarray(from, to), (value, i) => isSet(nulls, from + i) ? "" : write2(value)))
    );
  }
};
var csvOutputCompiled = (columns) => {
  const instance = new Instance();
  const { run } = instance;
  const size = run.blockColumnBytes.value;
  const places3 = run.allocate(size * columns.length);
  const blocks2 = columns.map((column, c) => new BlockColumn(instance, column, places3 + size * c));
  let room = 0;
  let out = 0;
  return (from, to) => {
    for (const block2 of blocks2) block2.fill(from, to);
    const most = run.wovenBytes(places3, columns.length, to - from);
    if (most > room) {
      room = Math.ceil(most * 1.2);
      out = run.allocate(room);
    }
    const length = run.weave(places3, columns.length, to - from, out);
    return instance.bytes.subarray(out, out + length);
  };
};

// core/src/kernels/in-module.ts
var mostKept = 256 << 20;
var shared;
var inModule = (work) => {
  const instance = shared ??= new Instance();
  const from = instance.run.mark();
  try {
    return work(instance);
  } catch (error) {
    shared = void 0;
    throw error;
  } finally {
    instance.run.release(from);
    if (instance.bytes.length > mostKept) shared = void 0;
  }
};
var rowsACopy = 16384;
var inCopies = (rows2, each) => {
  for (let from = 0; from < rows2; from += rowsACopy) each(from, Math.min(rows2, from + rowsACopy));
};
var mapCopies = (instance, given, to, make) => {
  const [block2, made3] = [given, to].map((one2) => instance.run.allocate(rowsACopy * one2.BYTES_PER_ELEMENT));
  const view = given instanceof Float64Array ? instance.float64s(block2, rowsACopy) : instance.uint32s(block2, rowsACopy);
  const madeView = to instanceof Uint8Array ? instance.bytes.subarray(made3, made3 + rowsACopy) : instance.uint32s(made3, rowsACopy);
  inCopies(given.length, (from, end) => {
    view.set(given.subarray(from, end));
    make(block2, end - from, made3);
    to.set(madeView.subarray(0, end - from), from);
  });
};

// core/src/kernels/search.ts
var firstOf = (count3, holds4) => {
  let [low, high] = [0, count3];
  while (low < high) {
    const middle = low + high >> 1;
    if (holds4(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
};

// core/src/kernels/text-codes-compiled.ts
var bytesACopy = 1 << 20;
var textsACopy = ({ starts, ends: ends2 }, from) => {
  const most = Math.min(starts.length, from + rowsACopy);
  let end = from;
  let size = 0;
  for (; end < most; end++) {
    const length = ends2[end] - starts[end];
    if (end > from && size + length > bytesACopy) break;
    size += length;
  }
  return { end, size };
};
var copyTexts = ({ starts, ends: ends2, bytes }, from, end, to, cuts) => {
  let at = 0;
  for (let row = from; row < end; ) {
    const first2 = starts[row];
    let last = first2;
    for (; row < end && starts[row] === last; row++) {
      cuts[2 * (row - from)] = at + last - first2;
      last = ends2[row];
      cuts[2 * (row - from) + 1] = at + last - first2;
    }
    to.set(bytes.subarray(first2, last), at);
    at += last - first2;
  }
};
var textCodes2 = (texts) => inModule((instance) => {
  const { run } = instance;
  const rows2 = texts.starts.length;
  const codes = uint32s(rows2);
  const dictionary2 = run.makeDictionary();
  const [cuts, made3] = [8, 4].map((bytes) => run.allocate(rowsACopy * bytes));
  let room = bytesACopy;
  let block2 = run.allocate(room);
  for (let from = 0; from < rows2; ) {
    const { end, size } = textsACopy(texts, from);
    if (size > room) block2 = run.allocate(room = size);
    const to = instance.bytes.subarray(block2, block2 + size);
    copyTexts(texts, from, end, to, instance.uint32s(cuts, 2 * (end - from)));
    run.codesOf(dictionary2, block2, cuts, 8, end - from, made3);
    codes.set(instance.uint32s(made3, end - from), from);
    from = end;
  }
  return { codes, bound: run.dictionarySize(dictionary2) };
});

// core/src/kernels/table-compiled.ts
var mostRows = 4e7;
var where = (rowsOf5, compiled4, reference) => (...args2) => {
  if (rowsOf5(...args2) > mostRows) return reference(...args2);
  try {
    return compiled4(...args2);
  } catch (error) {
    if (error instanceof RangeError) return reference(...args2);
    throw error;
  }
};
var arithmetic2 = (operation, a, b, to, limit) => inModule((instance) => {
  const { run } = instance;
  const [left, right, out] = [0, 1, 2].map(() => run.allocate(rowsABlock * 8));
  const views = [left, right, out].map((at) => instance.float64s(at, rowsABlock));
  if (typeof a === "number") views[0].fill(a);
  if (typeof b === "number") views[1].fill(b);
  const code2 = operations.indexOf(operation);
  const rows2 = run.allocate(rowsABlock * 4);
  const outside = [];
  for (let from = 0; from < to.length; from += rowsABlock) {
    const end = Math.min(to.length, from + rowsABlock);
    if (typeof a !== "number") views[0].set(a.subarray(from, end));
    if (typeof b !== "number") views[1].set(b.subarray(from, end));
    if (run.arithmetic(code2, left, right, out, end - from + 1 & ~1, limit))
      outside.push(instance.int32s(rows2, run.outsideOf(out, end - from, limit, from, rows2)).slice());
    to.set(views[2].subarray(0, end - from), from);
  }
  return stacked(outside);
});
var calculate2 = (formula, to) => inModule((instance) => {
  const { run } = instance;
  const place = () => run.allocate(rowsABlock * 8);
  const columns = /* @__PURE__ */ new Map();
  const constants2 = [];
  const calls = [];
  const placeOf = (part2) => {
    const at = (part2 instanceof Float64Array ? columns.get(part2) : void 0) ?? place();
    if (typeof part2 === "number") constants2.push([part2, at]);
    else if (part2 instanceof Float64Array) columns.set(part2, at);
    else calls.push([operations.indexOf(part2.operation), placeOf(part2.left), placeOf(part2.right), at]);
    return at;
  };
  const made3 = instance.float64s(placeOf(formula), rowsABlock);
  for (const [value, at] of constants2) instance.float64s(at, rowsABlock).fill(value);
  const given = [...columns].map(([from, at]) => ({ from, view: instance.float64s(at, rowsABlock) }));
  for (let from = 0; from < to.length; from += rowsABlock) {
    const end = Math.min(to.length, from + rowsABlock);
    for (const one2 of given) one2.view.set(one2.from.subarray(from, end));
    for (const [code2, left, right, at] of calls)
      run.arithmetic(code2, left, right, at, end - from + 1 & ~1, Infinity);
    to.set(made3.subarray(0, end - from), from);
  }
});
var groupTotals2 = (values, nulls, ids, count3, rows2) => inModule((instance) => {
  const { run } = instance;
  const totals = instance.filled((count3 + 1) * 24, 0);
  const [numbers4, groups, bits] = [rowsACopy * 8, rowsACopy * 4, rowsACopy / 8].map(
    (bytes) => run.allocate(bytes)
  );
  const numbersView = instance.float64s(numbers4, rowsACopy);
  const groupsView = instance.uint32s(groups, rowsACopy);
  const bitsView = instance.bytes.subarray(bits, bits + rowsACopy / 8);
  inCopies(ids.length, (from, end) => {
    groupsView.set(ids.subarray(from, end));
    const picked = rows2?.subarray(from, end);
    if (picked) pickNumbers(numbersView, values, picked);
    else numbersView.set(values.subarray(from, end));
    if (nulls && picked) pickBits(bitsView, nulls, picked);
    else if (nulls) bitsView.set(nulls.subarray(from >> 3, end + 7 >> 3));
    run.addTotals(numbers4, nulls ? bits : 0, groups, end - from, totals);
  });
  const made3 = instance.float64s(totals + 24, count3 * 3);
  const held = instance.int32s(totals + 24, count3 * 6);
  const [sums, counts2] = [float64s(count3), int32s(count3)];
  for (let g = 0; g < count3; g++) sums[g] = made3[g * 3] + made3[g * 3 + 1];
  for (let g = 0; g < count3; g++) counts2[g] = held[g * 6 + 4];
  return { sums, counts: counts2 };
});
var mostInTurns = 4096;
var countCodes2 = (codes, bound) => inModule((instance) => {
  const turns = bound > mostInTurns ? 1 : 4;
  const counts2 = instance.filled(bound * 4 * turns, 0);
  const block2 = instance.run.allocate(rowsACopy * 4);
  const view = instance.uint32s(block2, rowsACopy);
  inCopies(codes.length, (from, end) => {
    view.set(codes.subarray(from, end));
    instance.run.countCodes(block2, end - from, counts2, turns === 1 ? 0 : bound * 4);
  });
  const sums = instance.int32s(counts2, bound).slice();
  for (let turn = 1; turn < turns; turn++) {
    const others = instance.int32s(counts2 + turn * bound * 4, bound);
    for (let code2 = 0; code2 < bound; code2++) sums[code2] += others[code2];
  }
  return sums;
});
var firstRows2 = ({ codes, bound }, present = bound) => inModule((instance) => {
  const firsts2 = instance.filled(bound * 4, 255);
  const block2 = instance.run.allocate(rowsACopy * 4);
  const view = instance.uint32s(block2, rowsACopy);
  for (let from = 0, found2 = 0; from < codes.length && found2 < present; from += rowsACopy) {
    const part2 = codes.subarray(from, from + rowsACopy);
    view.set(part2);
    found2 += instance.run.firstRows(block2, part2.length, from, firsts2);
  }
  return instance.int32s(firsts2, bound).slice();
});
var idsOf = ({ a, factor, b }, bound, rows2) => inModule((instance) => {
  const { run } = instance;
  const idOf = instance.filled(bound * 4, 255);
  const [firsts2, sizes] = [0, 1].map(() => run.allocate(Math.min(bound, a.length) * 4));
  const [left, made3, chosen] = [0, 1, 2].map(() => run.allocate(rowsACopy * 4));
  const right = instance.filled(rowsACopy * 4, 0);
  const [lefts, rights, madeView] = [left, right, made3].map((at) => instance.uint32s(at, rowsACopy));
  const chosenView = instance.int32s(chosen, rowsACopy);
  const ids = uint32s(a.length);
  let count3 = 0;
  let place = 0;
  run.beginIds();
  inCopies(a.length, (from, end) => {
    lefts.set(a.subarray(from, end));
    if (b) rights.set(b.subarray(from, end));
    const next = rows2 ? firstOf(rows2.length, (at) => rows2[at] >= end) : end;
    if (rows2) chosenView.set(rows2.subarray(place, next));
    if (rows2) madeView.fill(noGroup);
    const [named2, n] = [rows2 ? chosen : 0, next - place];
    count3 = run.idsInOrder(left, factor, right, named2, n, from, place, idOf, made3, firsts2, sizes);
    ids.set(madeView.subarray(0, end - from), from);
    place = next;
  });
  return {
    ids,
    count: count3,
    first: instance.int32s(firsts2, count3).slice(),
    sizes: instance.int32s(sizes, count3).slice()
  };
});
var groupCodes2 = ({ codes, bound }, rows2) => idsOf({ a: codes, factor: 1, b: void 0 }, bound, rows2);
var groupPairs2 = (a, b, rows2) => idsOf({ a: a.codes, factor: b.bound, b: b.codes }, a.bound * b.bound, rows2);
var rowsOfCodes2 = (codes, keep, wanted) => inModule((instance) => {
  const { run } = instance;
  const kept2 = instance.put(keep);
  const block2 = run.allocate(rowsACopy * 4);
  const rows2 = run.allocate(codes.length * 4 + 4);
  const view = instance.uint32s(block2, rowsACopy);
  let count3 = 0;
  inCopies(codes.length, (from, end) => {
    view.set(codes.subarray(from, end));
    count3 += run.rowsOfCodes(block2, end - from, kept2, wanted, from, rows2 + count3 * 4);
  });
  return instance.int32s(rows2, count3).slice();
});
var lookUp2 = (codes, table, to) => inModule((instance) => {
  const held = instance.put(table);
  mapCopies(instance, codes, to, (block2, count3, made3) => instance.run.lookUp(block2, count3, held, made3));
});
var matchRows2 = (codes, rows2, met, to) => inModule((instance) => {
  const [held, marks] = [instance.put(rows2), instance.put(met)];
  let missing2 = 0;
  mapCopies(instance, codes, to, (block2, count3, made3) => {
    missing2 += instance.run.matchRows(block2, count3, held, marks, made3);
  });
  met.set(instance.bytes.subarray(marks, marks + met.length));
  return missing2;
});
var floatCodes2 = (values, below) => inModule((instance) => {
  const codes = uint32s(values.length);
  mapCopies(instance, values, codes, (block2, count3, made3) => instance.run.floatCodes(block2, count3, below, made3));
  return codes;
});
var numberCodes2 = (values, nulls) => inModule((instance) => {
  const codes = instance.run.allocate(values.length * 4);
  const bits = nulls ? instance.put(nulls) : 0;
  const count3 = instance.run.numberCodes(instance.put(values), bits, values.length, codes);
  return { codes: instance.uint32s(codes, values.length).slice(), bound: count3 + 1 };
});
var pairGroups2 = (a, b) => inModule((instance) => {
  const ids = instance.run.allocate(a.length * 4);
  const first2 = instance.run.allocate(a.length * 4);
  const count3 = instance.run.pairIds(instance.put(a), instance.put(b), a.length, ids, first2);
  return { ids: instance.uint32s(ids, a.length).slice(), count: count3, first: instance.int32s(first2, count3).slice() };
});
var compareFloats2 = (values, constant, { below, at, above }) => inModule((instance) => {
  const [low, same, high] = [Number(below), Number(at), Number(above)];
  const mask = uint8s(values.length);
  mapCopies(
    instance,
    values,
    mask,
    (block2, count3, made3) => instance.run.compareFloats(block2, count3, constant, low, same, high, made3)
  );
  return mask;
});
var chosenRows2 = (mask, wanted) => inModule((instance) => {
  const block2 = instance.run.allocate(rowsACopy);
  const rows2 = instance.run.allocate(mask.length * 4 + 4);
  const view = instance.bytes.subarray(block2, block2 + rowsACopy);
  let count3 = 0;
  inCopies(mask.length, (from, end) => {
    view.set(mask.subarray(from, end));
    count3 += instance.run.chosenRows(block2, end - from, wanted, from, rows2 + count3 * 4);
  });
  return instance.int32s(rows2, count3).slice();
});
var sortRows2 = (order2, keys, bits) => inModule((instance) => {
  const rows2 = order2 ? instance.put(order2) : instance.run.allocate(keys.length * 4);
  instance.run.sortRows(rows2, instance.put(keys), keys.length, bits, order2 === void 0);
  return instance.int32s(rows2, keys.length).slice();
});
var tableCompiled = {
  arithmetic: arithmetic2,
  calculate: (formula, to) => {
    try {
      calculate2(formula, to);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      tableReference.calculate(formula, to);
    }
  },
  groupTotals: where(
    (values, _nulls, ids, count3) => Math.max(values.length, ids.length, count3),
    groupTotals2,
    tableReference.groupTotals
  ),
  countCodes: where((codes, bound) => Math.max(codes.length, bound * 4), countCodes2, tableReference.countCodes),
  firstRows: where(({ codes, bound }) => Math.max(codes.length, bound), firstRows2, tableReference.firstRows),
  groupCodes: where(({ codes, bound }) => Math.max(codes.length, bound), groupCodes2, tableReference.groupCodes),
  groupPairs: where((a, b) => Math.max(a.codes.length, a.bound * b.bound), groupPairs2, tableReference.groupPairs),
  rowsOfCodes: where((codes) => codes.length, rowsOfCodes2, tableReference.rowsOfCodes),
  lookUp: where((codes, table) => Math.max(codes.length, table.length), lookUp2, tableReference.lookUp),
  matchRows: where((codes, rows2) => Math.max(codes.length, rows2.length), matchRows2, tableReference.matchRows),
  floatCodes: where((values) => values.length, floatCodes2, tableReference.floatCodes),
  numberCodes: where((values) => values.length, numberCodes2, tableReference.numberCodes),
  textCodes: where(({ starts }) => starts.length, textCodes2, tableReference.textCodes),
  pairGroups: where((a) => a.length, pairGroups2, tableReference.pairGroups),
  compareFloats: where((values) => values.length, compareFloats2, tableReference.compareFloats),
  chosenRows: where((mask) => mask.length, chosenRows2, tableReference.chosenRows),
  sortRows: where((_, keys) => keys.length, sortRows2, tableReference.sortRows)
};

// core/src/kernels/compiled.ts
var compiledKernels = { ...tableCompiled, csv: compiledCsv, csvOutput: csvOutputCompiled };
var useCompiledKernels = () => {
  if (typeof WebAssembly === "object") useKernels(compiledKernels);
};

// core/src/table/limits.ts
var TooLarge = class extends Error {
};
var maxRows = 1e8;
var maxColumns = 2e4;
var maxCells = 1e9;
var maxCellCharacters = 1e6;
var maxColumnCharacters = 1e9;
var written = (n) => n.toLocaleString("en-GB");
var checkSize = (what, rows2, columns = 1) => {
  if (rows2 > maxRows)
    throw new TooLarge(
      `${what} would make ${written(rows2)} rows, more than the ${written(maxRows)} that a table can have. Keep fewer rows before this.`
    );
  if (columns > maxColumns)
    throw new TooLarge(
      `${what} would make ${written(columns)} columns, more than the ${written(maxColumns)} that a table can have.`
    );
  if (rows2 * columns > maxCells)
    throw new TooLarge(
      `${what} would make ${written(rows2)} rows of ${written(columns)} columns, more than the ${written(maxCells)} cells that a table can have. Keep fewer rows or columns before this.`
    );
};
var TextSize = class {
  characters = 0;
  add(text3) {
    if (text3.length > maxCellCharacters)
      throw new TooLarge(
        `A text of ${written(text3.length)} characters would be made, more than the ${written(maxCellCharacters)} that a cell can hold. Shorten the texts before this.`
      );
    this.characters += text3.length;
    if (this.characters > maxColumnCharacters)
      throw new TooLarge(
        `The texts of one column would have more than ${written(maxColumnCharacters)} characters together. Shorten them, or keep fewer rows before this.`
      );
  }
};

// core/src/table/stored-text.ts
var bytesAString = 40;
var plainBytes = (bytes) => bytes.constructor === Uint8Array ? bytes : new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength);
var unpacked = ({ offsets, bytes }, decoder) => ({
  starts: offsets.subarray(0, -1),
  ends: offsets.subarray(1),
  bytes,
  decode: decoder(bytes),
  decoder
});
var bytesAPiece = 1 << 16;
var decodeRows = ({ starts, ends: ends2, bytes, decode }, first2, last) => {
  const strings = new Array(last - first2);
  let piece = "";
  let from = 0;
  let to = 0;
  let ascii = false;
  for (let i = first2; i < last; i++) {
    const start = starts[i];
    const end = ends2[i];
    if (start < from || end > to) {
      from = start;
      to = Math.min(bytes.length, Math.max(end, start + bytesAPiece));
      piece = decode(from, to);
      ascii = piece.length === to - from;
    }
    strings[i - first2] = ascii ? piece.slice(start - from, end - from) : decode(start, end);
  }
  return strings;
};
var LazyStrings = class {
  made;
  stored;
  length;
  constructor(stored) {
    this.stored = stored;
    this.length = stored.starts.length;
  }
  at(i) {
    if (!this.stored) return this.made?.[i] ?? "";
    return this.stored.decode(this.stored.starts[i] ?? 0, this.stored.ends[i] ?? 0);
  }
  isEmptyAt(i) {
    return this.stored ? this.stored.starts[i] === this.stored.ends[i] : this.made?.[i] === "";
  }
  get all() {
    if (this.stored) {
      this.made = decodeRows(this.stored, 0, this.length);
      this.stored = void 0;
    }
    return this.made ?? [];
  }
  /** The bytes, while nobody has asked for all strings. */
  get encoded() {
    return this.stored;
  }
  /** The most bytes of a cell; undefined where the strings are made. */
  get longest() {
    if (!this.stored) return void 0;
    const { starts, ends: ends2 } = this.stored;
    const n = starts.length;
    const together3 = starts.buffer === ends2.buffer ? 64 : 1;
    let longest4 = 0;
    for (let first2 = 0; first2 < n; first2 += together3) {
      const end = Math.min(n, first2 + together3);
      if (ends2[end - 1] - starts[first2] <= longest4) continue;
      for (let i = first2; i < end; i++) longest4 = Math.max(longest4, ends2[i] - starts[i]);
    }
    return longest4;
  }
  /** The buffers held now, for accounting; after `all` the strings themselves. */
  get buffers() {
    const { stored, made: made3 = [] } = this;
    return stored ? [
      [stored.starts.buffer, stored.starts.buffer.byteLength],
      [stored.ends.buffer, stored.ends.buffer.byteLength],
      [stored.bytes.buffer, stored.bytes.byteLength]
    ] : [[made3, made3.length * bytesAString]];
  }
};
var codesOfTexts2 = /* @__PURE__ */ new WeakMap();
var encodedCodes = (texts) => {
  const codes = codesOfTexts2.get(texts) ?? kernels().textCodes(texts);
  codesOfTexts2.set(texts, codes);
  return codes;
};
var gatherEncoded = (from, index) => {
  const starts = uint32s(index.length);
  const ends2 = uint32s(index.length);
  fillPlaces(starts, from.starts, index);
  fillPlaces(ends2, from.ends, index);
  return { ...from, starts, ends: ends2 };
};
var fillPlaces = (to, from, index) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = from[index[i]];
};
var concatEncoded = (parts2) => {
  const [first2] = parts2;
  if (!first2) return void 0;
  const total = parts2.reduce((sum, { starts: starts2 }) => sum + starts2.length, 0);
  if (parts2.some(({ bytes }) => bytes !== first2.bytes)) return concatPacked(parts2, total, first2.decoder);
  const starts = uint32s(total);
  const ends2 = uint32s(total);
  let at = 0;
  for (const part2 of parts2) {
    starts.set(part2.starts, at);
    ends2.set(part2.ends, at);
    at += part2.starts.length;
  }
  return { ...first2, starts, ends: ends2 };
};
var concatPacked = (parts2, total, decoder) => {
  const packed2 = parts2.flatMap((part2) => pack(part2) ?? []);
  const size = packed2.reduce((sum, { bytes: bytes2 }) => sum + bytes2.length, 0);
  if (packed2.length < parts2.length || size > 4294967295) return void 0;
  const bytes = uint8s(size);
  const offsets = uint32s(total + 1);
  let at = 0;
  let end = 0;
  for (const part2 of packed2) {
    bytes.set(part2.bytes, end);
    shiftPlaces(offsets, at, part2.offsets, end);
    at += part2.offsets.length - 1;
    end += part2.bytes.length;
  }
  return unpacked({ offsets, bytes }, decoder);
};
var shiftPlaces = (to, at, from, by) => {
  const n = from.length;
  for (let i = 0; i < n; i++) to[at + i] = from[i] + by;
};
var pack = (text3) => {
  const { starts, ends: ends2, bytes } = text3;
  const count3 = starts.length;
  const together3 = packRows(text3, 0, count3);
  const offsets = uint32s(count3 + 1);
  if (together3) {
    offsets.set(together3.ends, 1);
    return { offsets, bytes: together3.bytes };
  }
  let length = 0;
  for (let i = 0; i < count3; i++) {
    length += ends2[i] - starts[i];
    if (length > 4294967295) return void 0;
    offsets[i + 1] = length;
  }
  const packed2 = uint8s(length);
  for (let i = 0; i < count3; i++) packed2.set(bytes.subarray(starts[i], ends2[i]), offsets[i]);
  return { offsets, bytes: packed2 };
};
var packRows = ({ starts, ends: ends2, bytes }, from, to) => {
  const first2 = starts[from] ?? 0;
  const made3 = uint32s(to - from);
  return endsTogether(starts, ends2, from, made3) ? { bytes: bytes.subarray(first2, first2 + (made3.at(-1) ?? 0)), ends: made3 } : void 0;
};
var endsTogether = (starts, ends2, from, made3) => {
  const n = made3.length;
  const first2 = n > 0 ? starts[from] : 0;
  for (let i = 0, at = first2; i < n; i++) {
    if (starts[from + i] !== at) return false;
    at = ends2[from + i];
    made3[i] = at - first2;
  }
  return true;
};
var plainTextFromBytes = (type, stored) => ({
  type,
  form: "plain",
  stored,
  get strings() {
    return stored.all;
  }
});
var rowsAPiece = 4096;
var rowReader = (column) => {
  const encoded2 = column.stored?.encoded;
  if (!encoded2) {
    const { strings } = column;
    return (row) => strings[row];
  }
  let first2 = 0;
  let piece = [];
  return (row) => {
    if (row < first2 || row >= first2 + piece.length) {
      first2 = row;
      piece = decodeRows(encoded2, row, Math.min(encoded2.starts.length, row + rowsAPiece));
    }
    return piece[row - first2];
  };
};

// core/src/table/column.ts
var scalarTypes = ["text", "integer", "decimal", "boolean", "date", "datetime", "time"];
var columnTypes = [...scalarTypes, "list"];
var isTextColumn = (column) => column.type === "text" || column.type === "list";
var isNumber = (type) => type === "integer" || type === "decimal";
var typeTogether = (types) => {
  const all = [...new Set(types)];
  const [first2 = "text"] = all;
  if (all.length <= 1) return first2;
  if (all.every(isNumber)) return "decimal";
  return all.every((type) => type === "date" || type === "datetime") ? "datetime" : "text";
};
var lengthOf = (column) => {
  if (!isTextColumn(column)) return column.values.length;
  if (column.form === "dictionary") return column.indices.length;
  return (column.stored ?? column.strings).length;
};
var textAt = (column, i) => {
  if (column.form === "dictionary") return column.dictionary[column.indices[i]];
  if (column.stored) return column.stored.at(i);
  return column.strings[i];
};
var isNullAt = (column, i) => {
  if (isTextColumn(column)) {
    if (column.form === "dictionary") return column.indices[i] === 0;
    return column.stored ? column.stored.isEmptyAt(i) : column.strings[i] === "";
  }
  return isSet(column.nulls, i);
};
var cellAt = (column, i) => {
  if (isTextColumn(column)) return textAt(column, i) || null;
  if (isSet(column.nulls, i)) return null;
  return column.type === "boolean" ? column.values[i] === 1 : column.values[i];
};
var bufferFor = (type, length) => {
  if (type === "boolean") return uint8s(length);
  if (type === "date" || type === "time") return int32s(length);
  return float64s(length);
};
var TextWriter = class {
  indices;
  dictionary = [""];
  seen = /* @__PURE__ */ new Map([["", 0]]);
  size = new TextSize();
  type;
  constructor(length, type = "text") {
    this.indices = uint32s(length);
    this.type = type;
  }
  get distinct() {
    return this.dictionary.length;
  }
  set(i, cell) {
    if (cell === null) return;
    const text3 = cell;
    let code2 = this.seen.get(text3);
    if (code2 === void 0) {
      this.size.add(text3);
      code2 = this.dictionary.length;
      this.dictionary.push(text3);
      this.seen.set(text3, code2);
    }
    this.indices[i] = code2;
  }
  done() {
    return { type: this.type, form: "dictionary", indices: this.indices, dictionary: this.dictionary };
  }
};
var ValueWriter = class {
  values;
  empty;
  anyEmpty = false;
  filled;
  type;
  length;
  constructor(type, length) {
    this.type = type;
    this.length = length;
    this.values = bufferFor(type, length);
    this.empty = bitmap(length);
    this.filled = bitmap(length);
  }
  set(i, cell) {
    if (cell === null) return;
    set(this.filled, i);
    this.values[i] = cell === 0 ? 0 : Number(cell);
  }
  done() {
    for (let i = 0; i < this.length; i++)
      if (!isSet(this.filled, i)) {
        set(this.empty, i);
        this.anyEmpty = true;
      }
    return { type: this.type, values: this.values, nulls: this.anyEmpty ? this.empty : void 0 };
  }
};
var columnWriter = (type, length) => type === "text" || type === "list" ? new TextWriter(length, type) : new ValueWriter(type, length);
var sampleSize = 2e4;
var SampledTextWriter = class {
  coded;
  length;
  plain;
  size = new TextSize();
  constructor(length) {
    this.length = length;
    this.coded = new TextWriter(length);
  }
  set(i, cell) {
    if (!this.plain) {
      this.coded.set(i, cell);
      if (i === sampleSize && this.coded.distinct > sampleSize / 2) this.goPlain(i + 1);
    } else if (cell !== null) {
      this.size.add(cell);
      this.plain[i] = cell;
    }
  }
  goPlain(done) {
    const column = this.coded.done();
    this.plain = new Array(this.length).fill("");
    for (let i = 0; i < done; i++) this.plain[i] = textAt(column, i);
  }
  done() {
    return this.plain ? { type: "text", form: "plain", strings: this.plain } : this.coded.done();
  }
};
var rowWriter = (type, length) => type === "text" && length > 2 * sampleSize ? new SampledTextWriter(length) : columnWriter(type, length);
var columnOf = (type, cells) => {
  const writer = columnWriter(type, cells.length);
  cells.forEach((cell, i) => writer.set(i, cell));
  return writer.done();
};
var emptyColumn = (type, length) => columnWriter(type, length).done();
var encoded = /* @__PURE__ */ new WeakMap();
var asDictionary = (column) => {
  if (column.form === "dictionary") return column;
  const coded = encoded.get(column) ?? dictionaryOfBytes(column) ?? dictionaryOfStrings(column);
  encoded.set(column, coded);
  return coded;
};
var dictionaryOfStrings = (column) => {
  const writer = new TextWriter(column.strings.length, column.type);
  column.strings.forEach((text3, i) => writer.set(i, text3));
  return writer.done();
};
var dictionaryOfBytes = (column) => {
  const texts = column.stored?.encoded;
  if (!texts) return void 0;
  const { codes, bound } = encodedCodes(texts);
  const text3 = rowReader(column);
  const size = new TextSize();
  const dictionary2 = new Array(bound).fill("");
  kernels().firstRows({ codes, bound }).forEach((row, code2) => code2 > 0 && size.add(dictionary2[code2] = text3(row)));
  return { type: column.type, form: "dictionary", indices: codes, dictionary: dictionary2 };
};

// core/src/table/text.ts
var lower = (text3) => (/[İΣ]/.test(text3) ? text3.replaceAll("\u0130", "i").replaceAll("\u03A3", "\u03C3") : text3).toLowerCase();
var upper = (text3) => text3.toUpperCase();
var space = "\\t-\\r \\u0085\\u00a0\\u1680\\u2000-\\u200a\\u2028\\u2029\\u202f\\u205f\\u3000";
var ends = new RegExp(`^[${space}]+|[${space}]+$`, "g");
var isSpaceCode = (code2) => code2 <= 32 ? code2 === 32 || code2 >= 9 && code2 <= 13 : code2 > 127 && new RegExp(`[${space}]`).test(String.fromCharCode(code2));
var trim = (text3) => text3 !== "" && (isSpaceCode(text3.charCodeAt(0)) || isSpaceCode(text3.charCodeAt(text3.length - 1))) ? text3.replace(ends, "") : text3;
var surrogate = /[\ud800-\udfff]/;
var compareCodePoints = (a, b) => {
  if (a === b) return 0;
  if (!surrogate.test(a) && !surrogate.test(b)) return a < b ? -1 : 1;
  const left = Array.from(a);
  const right = Array.from(b);
  for (let i = 0; i < Math.min(left.length, right.length); i++) {
    const difference2 = (left[i]?.codePointAt(0) ?? 0) - (right[i]?.codePointAt(0) ?? 0);
    if (difference2 !== 0) return difference2;
  }
  return left.length - right.length;
};
var naturalKey = (lowered) => lowered.replace(/[0-9]+/g, (digits2) => {
  const plain4 = digits2.replace(/^0+(?=[0-9])/, "");
  return `0${String(plain4.length).padStart(4, "0")}${plain4}`;
});
var wildcard = (pattern2) => new RegExp(
  `^${pattern2.replace(/[.+^${}()|[\]\\/]/g, "\\$&").replaceAll("*", "[\\s\\S]*").replaceAll("?", "[\\s\\S]")}$`,
  "iu"
);
var titleCase = (text3) => text3.replace(/[\p{L}\p{M}\p{N}'’]+/gu, (word2) => {
  const at = Array.from(word2).findIndex((sign2) => /\p{L}/u.test(sign2));
  const signs2 = Array.from(word2);
  return at < 0 ? word2 : signs2.map((sign2, i) => i === at ? upper(sign2) : lower(sign2)).join("");
});

// core/src/table/number.ts
var normalized = (value) => Number(value.toPrecision(15));
var plainSmall = (text3) => {
  const [mantissa = "", exponent = "0"] = text3.split("e");
  const digits2 = mantissa.replace(/[-.]/g, "");
  return `${text3.startsWith("-") ? "-" : ""}0.${"0".repeat(-Number(exponent) - 1)}${digits2}`;
};
var formatDecimal = (value) => {
  if (Number.isInteger(value * 1e4)) {
    const short = String(value);
    if (short.length <= 15 && !short.includes("e")) return short;
  }
  const digits2 = value.toPrecision(15);
  if (!digits2.includes("e") && Math.abs(value) >= 1e-6)
    return digits2.endsWith("0") && digits2.includes(".") ? digits2.replace(/\.?0+$/, "") : digits2;
  const rounded = Number(digits2);
  if (rounded === 0) return "0";
  const text3 = Number.isFinite(rounded) ? String(rounded) : digits2;
  return Math.abs(rounded) < 1e-6 && Math.abs(rounded) >= 1e-7 ? plainSmall(text3) : text3.replace("e+", "e");
};
var compensatedSum = (values) => {
  let sum = 0;
  let lost = 0;
  for (const x of values) {
    const next = sum + x;
    lost += Math.abs(sum) >= Math.abs(x) ? sum - next + x : x - next + sum;
    sum = next;
  }
  return sum + lost;
};
var modulo = (x, d) => {
  const left = x % d;
  return left !== 0 && left < 0 !== d < 0 ? left + d : left;
};
var maxInteger = Number.MAX_SAFE_INTEGER;
var roundTo = (value, places3) => shift(value, places3, (x) => Math.floor(x + 0.5));
var roundUp = (value, places3) => shift(value, places3, Math.ceil);
var roundDown = (value, places3) => shift(value, places3, Math.floor);
var shift = (value, places3, round) => {
  if (places3 >= 0 && Number.isInteger(value)) return value;
  const [mantissa, exponent = "0"] = String(normalized(Math.abs(value))).split("e");
  const shifted2 = Number(`${mantissa}e${Number(exponent) + places3}`);
  if (!Number.isFinite(shifted2)) return normalized(value);
  const scaled2 = round(shifted2 === 0 && value !== 0 ? Number.MIN_VALUE : shifted2);
  const [digits2, tens = "0"] = String(scaled2).split("e");
  const result = Number(`${digits2}e${Number(tens) - places3}`);
  return value < 0 && result !== 0 ? -result : result;
};
var plainLocale = { decimal: ".", group: "," };
var quote = (sign2) => sign2.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
var currencySigns = "$\xA2\xA3\xA4\xA5\u058F\u060B\u07FE\u07FF\u09F2\u09F3\u09FB\u0AF1\u0BF9\u0E3F\u17DB\u20A0\u20A1\u20A2\u20A3\u20A4\u20A5\u20A6\u20A7\u20A8\u20A9\u20AA\u20AB\u20AC\u20AD\u20AE\u20AF\u20B0\u20B1\u20B2\u20B3\u20B4\u20B5\u20B6\u20B7\u20B8\u20B9\u20BA\u20BB\u20BC\u20BD\u20BE\u20BF\u20C0";
var numberSource = ({ decimal, group }) => {
  const d = quote(decimal);
  const digits2 = group === "" ? "[0-9]+" : `[0-9]{1,3}(?:${quote(group)}[0-9]{3})+|[0-9]+`;
  return `^(\\()?([-+\u2212])? ?([${currencySigns}])? ?([-+\u2212])?(?:(${digits2})(?:${d}([0-9]+))?|${d}([0-9]+))([eE][-+]?[0-9]+)? ?([${currencySigns}])? ?(%)?(\\))?$`;
};
var areWhole = (digits2, grouped, first2) => digits2 > 0 && (grouped ? digits2 === 3 : !first2 || digits2 <= 3);
var digitsFrom = (text3, start, decimal, group) => {
  const n = text3.length;
  let value = 0;
  let digits2 = 0;
  let run = 0;
  let grouped = false;
  let point = -1;
  for (let i = start; i < n; i++) {
    const code2 = text3.charCodeAt(i);
    const digit = code2 - 48;
    if (digit >= 0 && digit <= 9) {
      value = value * 10 + digit;
      digits2++;
      run++;
      continue;
    }
    if (point >= 0 || code2 !== decimal && code2 !== group || !areWhole(run, grouped, code2 === group)) return NaN;
    if (code2 === decimal) point = i;
    else grouped = true;
    run = 0;
  }
  if (digits2 > 15 || !areWhole(run, grouped && point < 0, false)) return NaN;
  return point < 0 ? value : value / 10 ** (n - point - 1);
};
var codeOfSign = (sign2) => sign2.length === 1 ? sign2.charCodeAt(0) : -1;
var commonReader = ({ decimal, group }) => {
  const [point, parting] = [codeOfSign(decimal), codeOfSign(group)];
  return (text3) => {
    const first2 = text3.charCodeAt(0);
    const negative = first2 === 45;
    let start = negative ? 1 : 0;
    if (first2 > 57 || first2 === 36) {
      if (!currencySigns.includes(text3.charAt(0))) return NaN;
      start = text3.charCodeAt(1) === 32 ? 2 : 1;
    }
    const value = digitsFrom(text3, start, point, parting);
    return negative && value !== 0 ? -value : value;
  };
};
var numberReader = (locale = plainLocale) => {
  const readCommon = commonReader(locale);
  const readByExpression = expressionReader(locale);
  return (text3) => {
    const value = readCommon(text3);
    return Number.isNaN(value) ? readByExpression(text3) : value;
  };
};
var expressionReader = (locale) => {
  const expression = new RegExp(numberSource(locale));
  return (text3) => {
    const m = expression.exec(trim(text3));
    if (!m) return null;
    const [, open2, before, cash, after, whole5, fraction, bare, exponent, tail, percent3, close] = m;
    if (open2 === void 0 !== (close === void 0) || cash && tail || before && after || open2 && (before ?? after))
      return null;
    const digits2 = (whole5 ?? "0").split(locale.group || "\0").join("");
    const size = Number(`${digits2}.${fraction ?? bare ?? "0"}${exponent ?? ""}`);
    if (!Number.isFinite(size)) return null;
    const value = percent3 ? size / 100 : size;
    if ((open2 ?? (before ?? after) === "-") || (before ?? after) === "\u2212") {
      if (value === 0) return 0;
      return -value;
    }
    return value;
  };
};

// core/src/table/text-ranks.ts
var keyOf = (text3, natural) => natural ? naturalKey(lower(text3)) : lower(text3);
var compareText = (natural) => {
  const keys = /* @__PURE__ */ new Map();
  const known3 = (text3) => {
    let key = keys.get(text3);
    if (key === void 0) keys.set(text3, key = keyOf(text3, natural));
    return key;
  };
  return (a, b) => compareCodePoints(known3(a), known3(b)) || compareAlike(a, b, natural);
};
var compareAlike = (a, b, natural) => (natural ? compareCodePoints(lower(a), lower(b)) : 0) || compareCodePoints(a, b);
var wordsAKey = 4;
var beyondAscii = 255;
var extentOf = (keys) => {
  const [first2 = ""] = keys;
  let shared2 = first2.length;
  let longest4 = 0;
  for (const key of keys) {
    let same = 0;
    while (same < shared2 && key.charCodeAt(same) === first2.charCodeAt(same)) same++;
    shared2 = same;
    longest4 = Math.max(longest4, key.length);
  }
  return { shared: shared2, longest: longest4 };
};
var fillWord = (word2, keys, from, ended) => {
  const n = word2.length;
  for (let i = 0; i < n; i++) {
    const key = keys[i];
    let bits = 0;
    for (let k = from; k < from + 4; k++) {
      let code2 = k < key.length && ended[i] === 0 ? key.charCodeAt(k) : 0;
      if (code2 > 127) {
        code2 = beyondAscii;
        ended[i] = 1;
      }
      bits = bits << 8 | code2;
    }
    word2[i] = bits;
  }
};
var markBreaks = (order2, word2, breaks) => {
  const n = order2.length;
  for (let i = 1; i < n; i++) if (word2[order2[i]] !== word2[order2[i - 1]]) breaks[i] = 1;
};
var orderOfTexts = (texts, natural) => {
  const keys = texts.map((text3) => keyOf(text3, natural));
  const { shared: shared2, longest: longest4 } = extentOf(keys);
  const ended = new Uint8Array(texts.length);
  const words3 = [];
  for (let from = shared2; from < longest4 && words3.length < wordsAKey; from += 4) {
    const word2 = uint32s(texts.length);
    fillWord(word2, keys, from, ended);
    words3.push(word2);
  }
  let order2 = Int32Array.from(texts, (_, i) => i);
  for (const word2 of [...words3].reverse()) order2 = kernels().sortRows(order2, word2, 32);
  const breaks = new Uint8Array(texts.length);
  for (const word2 of words3) markBreaks(order2, word2, breaks);
  const compare = (a, b) => compareCodePoints(keys[a], keys[b]) || compareAlike(texts[a], texts[b], natural);
  for (let from = 0, end = 0; from < order2.length; from = end) {
    end = from + 1;
    while (end < order2.length && breaks[end] === 0) end++;
    if (end > from + 1) order2.subarray(from, end).sort(compare);
  }
  return order2;
};
var rank = (texts, natural) => {
  const order2 = orderOfTexts(texts, natural);
  const ranks2 = uint32s(texts.length);
  let next = 0;
  let before;
  for (const at of order2) {
    const text3 = texts[at];
    if (text3 !== "" && before !== void 0 && text3 !== before) next++;
    if (text3 === "") continue;
    ranks2[at] = next;
    before = text3;
  }
  const last = before === void 0 ? 0 : next + 1;
  texts.forEach((text3, at) => {
    if (text3 === "") ranks2[at] = last;
  });
  return { ranks: ranks2, bound: last + 1 };
};
var ranksKnown = /* @__PURE__ */ new WeakMap();
var ranked = (of, texts, natural) => {
  const found2 = ranksKnown.get(of) ?? {};
  ranksKnown.set(of, found2);
  return found2[natural ? "natural" : "plain"] ??= rank(texts(), natural);
};
var rowsOf = (column) => {
  const read2 = rowReader(column);
  return Array.from({ length: lengthOf(column) }, (_, row) => read2(row));
};
var textRanks = (column, natural) => {
  if (column.form === "plain") return ranked(column, () => rowsOf(column), natural);
  const { indices, dictionary: dictionary2 } = column;
  const { ranks: ranks2, bound } = ranked(dictionary2, () => dictionary2, natural);
  const ofRows = uint32s(indices.length);
  kernels().lookUp(indices, ranks2, ofRows);
  return { ranks: ofRows, bound };
};

// core/src/table/list.ts
var known = /* @__PURE__ */ new Map();
var numberText = (item) => Number.isSafeInteger(item) ? String(item + 0) : formatDecimal(item);
var itemsOf = (text3) => {
  let items2 = known.get(text3);
  if (!items2) {
    if (known.size > 5e3) known.clear();
    known.set(text3, items2 = JSON.parse(text3));
  }
  return items2;
};
var listText = (items2) => `[${items2.map((item) => typeof item === "number" ? numberText(item) : JSON.stringify(item)).join(",")}]`;
var itemText = (item) => typeof item === "number" ? numberText(item) : String(item);
var textOrder = compareText(false);
var rank2 = (item) => {
  if (item === null) return 3;
  if (typeof item === "number") return 0;
  if (typeof item === "boolean") return 1;
  return 2;
};
var compareItems = (a, b) => rank2(a) - rank2(b) || (typeof a === "string" ? textOrder(a, b) : Number(a) - Number(b));

// core/src/table/gather.ts
var fillInts = (to, from, index) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = from[index[i]];
};
var fillBytes = (to, from, index) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = from[index[i]];
};
var fillIndices = (to, from, index) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = from[index[i]];
};
var clearMissing = (to, index) => {
  const n = to.length;
  for (let i = 0; i < n; i++) if (index[i] < 0) to[i] = 0;
};
var fillNullsOfSome = (to, from, index) => {
  const n = index.length;
  for (let i = 0; i < n; i++) {
    const at = index[i];
    if (at >= 0 && (from[at >> 3] & 1 << (at & 7)) !== 0) to[i >> 3] = to[i >> 3] | 1 << (i & 7);
  }
};
var markMissing = (to, index) => {
  const n = index.length;
  for (let i = 0; i < n; i++) if (index[i] < 0) to[i >> 3] = to[i >> 3] | 1 << (i & 7);
};
var hasMissing = (index) => {
  const n = index.length;
  for (let i = 0; i < n; i++) if (index[i] < 0) return true;
  return false;
};
var missing = /* @__PURE__ */ new WeakMap();
var markComplete = (index) => {
  missing.set(index, false);
  return index;
};
var isComplete = (index) => missing.get(index) === false;
var anyMissing = (index) => {
  let found2 = missing.get(index);
  if (found2 === void 0) missing.set(index, found2 = hasMissing(index));
  return found2;
};
var isTable = (from, index) => from.length < index.length >> 2 && !anyMissing(index);
var gatherFloats = (from, index) => {
  const to = float64s(index.length);
  pickNumbers(to, from, index);
  if (anyMissing(index)) clearMissing(to, index);
  return to;
};
var gatherInts = (from, index) => {
  const to = int32s(index.length);
  if (isTable(from, index)) kernels().lookUp(new Uint32Array(index.buffer, index.byteOffset, index.length), from, to);
  else fillInts(to, from, index);
  return to;
};
var gatherBytes = (from, index) => {
  const to = uint8s(index.length);
  fillBytes(to, from, index);
  return to;
};
var gatherIndices = (from, index) => {
  const to = uint32s(index.length);
  if (isTable(from, index)) kernels().lookUp(new Uint32Array(index.buffer, index.byteOffset, index.length), from, to);
  else fillIndices(to, from, index);
  return to;
};
var gatherNulls = (from, index) => {
  const some2 = anyMissing(index);
  if (from === void 0 && !some2) return void 0;
  const to = bitmap(index.length);
  if (from && some2) fillNullsOfSome(to, from, index);
  else if (from) pickBits(to, from, index);
  if (some2) markMissing(to, index);
  return some2 || hasBits(to) ? to : void 0;
};
var hasBits = (bits) => {
  const n = bits.length;
  for (let i = 0; i < n; i++) if (bits[i] !== 0) return true;
  return false;
};
var gatherPlain = (column, index) => {
  const { type, stored } = column;
  if (stored?.encoded) return plainTextFromBytes(type, new LazyStrings(gatherEncoded(stored.encoded, index)));
  const { strings } = column;
  return { type, form: "plain", strings: Array.from(index, (at) => at < 0 ? "" : strings[at]) };
};
var gather = (column, index) => {
  if (isTextColumn(column))
    return column.form === "dictionary" ? { ...column, indices: gatherIndices(column.indices, index) } : gatherPlain(column, index);
  const empty = gatherNulls(column.nulls, index);
  if (column.type === "boolean") return { type: column.type, values: gatherBytes(column.values, index), nulls: empty };
  if (column.type === "date" || column.type === "time")
    return { type: column.type, values: gatherInts(column.values, index), nulls: empty };
  return { type: column.type, values: gatherFloats(column.values, index), nulls: empty };
};
var layOut = (perCode, codes) => {
  if (isTextColumn(perCode) && perCode.form === "dictionary") {
    const { indices } = perCode;
    let same = true;
    for (let code2 = 0; same && code2 < indices.length; code2++) same = indices[code2] === code2;
    if (same) return { ...perCode, indices: codes };
  }
  return gather(perCode, markComplete(new Int32Array(codes.buffer, codes.byteOffset, codes.length)));
};
var sliceRows = (count3, from = 0, step = 1) => {
  const index = int32s(count3);
  for (let i = 0; i < count3; i++) index[i] = from + i * step;
  return markComplete(index);
};
var repeatEach = (count3, times2) => {
  const index = int32s(count3 * times2);
  fillRepeats(index, times2);
  return markComplete(index);
};
var fillRepeats = (index, times2) => {
  const n = index.length;
  for (let row = 0, at = 0; at < n; row++) {
    const end = at + times2;
    for (; at < end; at++) index[at] = row;
  }
};
var sumLengths = (columns) => columns.reduce((sum, column) => sum + lengthOf(column), 0);
var concatIndices = (columns, total) => {
  const [first2] = columns;
  if (first2?.form !== "dictionary") return void 0;
  const indices = uint32s(total);
  let at = 0;
  for (const column of columns) {
    if (column.form !== "dictionary" || column.dictionary !== first2.dictionary) return void 0;
    indices.set(column.indices, at);
    at += column.indices.length;
  }
  return { ...first2, indices };
};
var concatPlain = (type, columns, total) => {
  const parts2 = columns.flatMap(({ stored }) => stored?.encoded ?? []);
  const together3 = parts2.length === columns.length ? concatEncoded(parts2) : void 0;
  if (together3) return plainTextFromBytes(type, new LazyStrings(together3));
  const strings = new Array(total);
  let at = 0;
  for (const column of columns) for (const text3 of column.strings) strings[at++] = text3;
  return { type, form: "plain", strings };
};
var concatText = (type, columns, total) => {
  const shared2 = concatIndices(columns, total);
  if (shared2) return shared2;
  if (columns.every((column) => column.form === "plain")) return concatPlain(type, columns, total);
  const words3 = [""];
  const seen2 = /* @__PURE__ */ new Map([["", 0]]);
  const codeOf2 = (word2) => {
    let code2 = seen2.get(word2);
    if (code2 === void 0) {
      code2 = words3.length;
      words3.push(word2);
      seen2.set(word2, code2);
    }
    return code2;
  };
  const codes = uint32s(total);
  let at = 0;
  for (const column of columns) {
    if (column.form === "plain") {
      for (const text3 of column.strings) codes[at++] = codeOf2(text3);
      continue;
    }
    const map2 = uint32s(column.dictionary.length);
    column.dictionary.forEach((word2, code2) => map2[code2] = codeOf2(word2));
    kernels().lookUp(column.indices, map2, codes.subarray(at, at + column.indices.length));
    at += column.indices.length;
  }
  return { type, form: "dictionary", indices: codes, dictionary: words3 };
};
var concat = (type, columns) => {
  const [only] = columns;
  if (columns.length === 1 && only) return only;
  const total = sumLengths(columns);
  if (type === "text" || type === "list") return concatText(type, columns, total);
  const chooseValues = () => {
    if (type === "boolean") return uint8s(total);
    if (type === "date" || type === "time") return int32s(total);
    return float64s(total);
  };
  const values = chooseValues();
  const nulls = bitmap(total);
  let any = false;
  let at = 0;
  for (const column of columns) {
    if (isTextColumn(column)) throw new Error("text among values");
    values.set(column.values, at);
    if (column.nulls) copyBits(nulls, at, column.nulls, column.values.length);
    any ||= column.nulls !== void 0;
    at += column.values.length;
  }
  return { type, values, nulls: any ? nulls : void 0 };
};
var interleaveValues = (to, columns) => {
  const width = columns.length;
  const rows2 = columns[0]?.length ?? 0;
  for (let start = 0; start < rows2; start += 1024) {
    const end = Math.min(rows2, start + 1024);
    for (let k = 0; k < width; k++) {
      const from = columns[k];
      for (let i = start, at = start * width + k; i < end; i++, at += width) to[at] = from[i];
    }
  }
  return to;
};
var interleaveNulls = (columns, rows2) => {
  if (columns.every((empty) => empty === void 0)) return void 0;
  const width = columns.length;
  const to = bitmap(rows2 * width);
  columns.forEach((empty, k) => {
    if (empty) {
      for (let i = 0; i < rows2; i++) if (isSet(empty, i)) set(to, i * width + k);
    }
  });
  return to;
};
var interleave = (type, columns) => {
  const rows2 = columns[0] ? lengthOf(columns[0]) : 0;
  if (type === "text" || type === "list") {
    const joined2 = concat(type, columns);
    const index = int32s(rows2 * columns.length);
    for (let i = 0, at = 0; i < rows2; i++) for (let k = 0; k < columns.length; k++) index[at++] = k * rows2 + i;
    return gather(joined2, index);
  }
  const values = columns;
  const empty = interleaveNulls(
    values.map((column) => column.nulls),
    rows2
  );
  const total = rows2 * columns.length;
  if (type === "boolean")
    return {
      type,
      values: interleaveValues(
        uint8s(total),
        values.map((column) => column.values)
      ),
      nulls: empty
    };
  if (type === "date" || type === "time")
    return {
      type,
      values: interleaveValues(
        int32s(total),
        values.map((column) => column.values)
      ),
      nulls: empty
    };
  return {
    type,
    values: interleaveValues(
      float64s(total),
      values.map((column) => column.values)
    ),
    nulls: empty
  };
};
var mapText = (column, change) => {
  if (column.form === "plain") {
    const read2 = rowReader(column);
    const changed3 = (row) => {
      const text3 = read2(row);
      return text3 === "" ? "" : change(text3);
    };
    return { type: "text", form: "plain", strings: Array.from({ length: lengthOf(column) }, (_, row) => changed3(row)) };
  }
  const writer = columnWriter("text", column.dictionary.length);
  column.dictionary.forEach((word2, code2) => writer.set(code2, word2 === "" ? null : change(word2) || null));
  const changed2 = writer.done();
  const codes = uint32s(column.indices.length);
  for (let i = 0; i < codes.length; i++) codes[i] = changed2.indices[column.indices[i]];
  return { type: "text", form: "dictionary", indices: codes, dictionary: changed2.dictionary };
};
var testText = (column, test) => {
  const n = lengthOf(column);
  const held = uint8s(n);
  if (column.form === "plain") {
    const read2 = rowReader(column);
    for (let i = 0; i < n; i++) held[i] = test(read2(i)) ? 1 : 0;
    return held;
  }
  const perWord = uint8s(column.dictionary.length);
  column.dictionary.forEach((word2, code2) => perWord[code2] = test(word2) ? 1 : 0);
  for (let i = 0; i < n; i++) held[i] = perWord[column.indices[i]];
  return held;
};

// core/src/table/ranges.ts
var rangeOfInts = (values, nulls) => {
  const n = values.length;
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < n; i++) {
    const value = values[i];
    if (value >= low && value <= high) continue;
    if (nulls !== void 0 && (nulls[i >> 3] & 1 << (i & 7)) !== 0) continue;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return [low, high];
};
var boundsOfFloats = (values, nulls) => {
  const n = values.length;
  let low = Infinity;
  let high = -Infinity;
  let least2 = Infinity;
  for (let i = 0; i < n; i++) {
    const value = values[i];
    const size = value < 0 ? -value : value;
    if (value >= low && value <= high && (size >= least2 || size === 0)) continue;
    if (nulls !== void 0 && (nulls[i >> 3] & 1 << (i & 7)) !== 0) continue;
    if (value < low) low = value;
    if (value > high) high = value;
    if (size < least2 && size > 0) least2 = size;
  }
  return { low, high, least: least2 };
};
var zerosOf = (values, nulls) => {
  const rows2 = new IntList();
  const n = values.length;
  for (let i = 0; i < n; i++) if (values[i] === 0 && !isSet(nulls, i)) rows2.push(i);
  return rows2.done();
};
var Remembered = class {
  known = /* @__PURE__ */ new WeakMap();
  of(key, find2) {
    const value = this.known.get(key) ?? find2();
    this.known.set(key, value);
    return value;
  }
};
var ranges = new Remembered();
var bounds = new Remembered();
var zeros = new Remembered();
var rangeOf = (column) => {
  const { values, nulls } = column;
  if (values instanceof Uint8Array) return [0, 1];
  if (values instanceof Int32Array) return ranges.of(column, () => rangeOfInts(values, nulls));
  const { low, high } = boundsOfColumn(column);
  return [low, high];
};
var boundsOfColumn = (column) => bounds.of(column, () => boundsOfFloats(column.values, column.nulls));
var zeroRows = (column) => zeros.of(column, () => zerosOf(column.values, column.nulls));

// core/src/table/codes.ts
var widestRange = 1e6;
var codesOfRange = ({ values, nulls }, below, rows2) => {
  const codes = shifted(values, below, rows2);
  if (nulls && rows2) clearChosen(codes, nulls, rows2);
  else if (nulls) fillSet(codes, nulls, 0);
  return codes;
};
var shifted = (values, below, rows2) => {
  if (!rows2 && values instanceof Float64Array) return kernels().floatCodes(values, below);
  const codes = uint32s(rows2?.length ?? values.length);
  if (rows2) shiftChosen(codes, values, below, rows2);
  else if (values instanceof Int32Array) shiftInts(codes, values, below);
  else for (let i = 0; i < codes.length; i++) codes[i] = values[i] - below;
  return codes;
};
var shiftInts = (codes, values, below) => {
  const n = codes.length;
  const less = below | 0;
  for (let i = 0; i < n; i++) codes[i] = values[i] - less | 0;
};
var shiftChosen = (codes, values, below, rows2) => {
  if (values instanceof Float64Array) shiftChosenFloats(codes, values, below, rows2);
  else if (values instanceof Int32Array) shiftChosenInts(codes, values, below, rows2);
  else for (let i = 0; i < codes.length; i++) codes[i] = values[rows2[i]] - below;
};
var shiftChosenFloats = (codes, values, below, rows2) => {
  const n = codes.length;
  for (let i = 0; i < n; i++) codes[i] = values[rows2[i]] - below;
};
var shiftChosenInts = (codes, values, below, rows2) => {
  const n = codes.length;
  for (let i = 0; i < n; i++) codes[i] = values[rows2[i]] - below;
};
var clearChosen = (codes, nulls, rows2) => {
  const n = codes.length;
  for (let i = 0; i < n; i++) if ((nulls[rows2[i] >> 3] & 1 << (rows2[i] & 7)) !== 0) codes[i] = 0;
};
var codingOf = (column, most) => {
  if (isTextColumn(column))
    return column.form === "dictionary" && column.dictionary.length <= most ? { bound: column.dictionary.length, below: void 0 } : void 0;
  if (column.type === "decimal" || column.values.length === 0) return void 0;
  const [low, high] = rangeOf(column);
  if (low > high) return { bound: 1, below: 0 };
  return high - low < Math.min(Math.max(widestRange, 2 * column.values.length), most - 2) ? { bound: high - low + 2, below: low - 1 } : void 0;
};
var rangeCodes = /* @__PURE__ */ new WeakMap();
var allCodesOfRange = (column, below) => {
  const known3 = rangeCodes.get(column);
  if (known3 instanceof Uint32Array) return known3;
  const codes = codesOfRange(column, below, void 0);
  rangeCodes.set(column, known3 ? codes : "asked");
  return codes;
};
var heldCodes = (column) => {
  const known3 = rangeCodes.get(column);
  return known3 instanceof Uint32Array ? known3 : void 0;
};
var codesBy = ({ bound, below }, column, rows2) => {
  if (!isTextColumn(column))
    return { codes: rows2 ? codesOfRange(column, below, rows2) : allCodesOfRange(column, below), bound };
  const { indices } = asDictionary(column);
  return { codes: rows2 ? gatherIndices(indices, rows2) : indices, bound };
};
var codeAt = ({ below }, column, row) => {
  if (isTextColumn(column)) return asDictionary(column).indices[row];
  return isSet(column.nulls, row) ? 0 : column.values[row] - below;
};
var sameKind = (values, length) => {
  if (values instanceof Float64Array) return float64s(length);
  return values instanceof Int32Array ? int32s(length) : uint8s(length);
};
var wordsOf = ({ bound, below }, column) => {
  if (isTextColumn(column))
    return { ...asDictionary(column), indices: Uint32Array.from({ length: bound }, (_, i) => i) };
  const words3 = sameKind(column.values, bound);
  for (let code2 = 1; code2 < bound; code2++) words3[code2] = below + code2;
  const nulls = bitmap(bound);
  set(nulls, 0);
  return { type: column.type, values: words3, nulls };
};
var readyCodes = (column, most) => {
  const coding = codingOf(column, most);
  return coding && codesBy(coding, column);
};
var codesOf = (column, rows2) => {
  const coding = codingOf(column, Infinity);
  if (coding) return codesBy(coding, column, rows2);
  const { codes, bound } = distinctCodes(column);
  return { codes: rows2 ? gatherIndices(codes, rows2) : codes, bound };
};
var distinctCodes = (column) => {
  if (!isTextColumn(column)) return kernels().numberCodes(asFloats(column.values), column.nulls);
  const texts = bytesOf(column);
  if (texts) return encodedCodes(texts);
  const { indices, dictionary: dictionary2 } = asDictionary(column);
  return { codes: indices, bound: dictionary2.length };
};
var asFloats = (values) => values instanceof Float64Array ? values : new Float64Array(values);
var product = (a, b) => {
  const codes = uint32s(a.codes.length);
  multiply(codes, a.codes, b.bound, b.codes);
  return { codes, bound: a.bound * b.bound };
};
var multiply = (to, a, factor, b) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = a[i] * factor + b[i];
};
var rememberedOfBoth = (find2) => {
  const known3 = /* @__PURE__ */ new WeakMap();
  return (a, b) => {
    const ofFirst = known3.get(a) ?? /* @__PURE__ */ new WeakMap();
    const { found: found2 } = ofFirst.get(b) ?? { found: find2(a, b) };
    known3.set(a, ofFirst.set(b, { found: found2 }));
    return found2;
  };
};
var findWords = (of, among2) => {
  const seen2 = /* @__PURE__ */ new Map();
  among2.forEach((word2, code2) => seen2.set(word2, code2));
  let bound = among2.length;
  const map2 = Uint32Array.from(of, (word2) => seen2.get(word2) ?? bound++);
  return { map: map2, bound };
};
var wordMap = rememberedOfBoth(findWords);
var codesOfBytes = rememberedOfBoth((left, right) => {
  const together3 = concatEncoded([left, right]);
  if (!together3) return void 0;
  const { codes, bound } = kernels().textCodes(together3);
  const count3 = left.starts.length;
  return { left: codes.subarray(0, count3), right: codes.subarray(count3), bound };
});
var bytesOf = (column) => column.form === "plain" ? column.stored?.encoded : void 0;
var codesOfTexts3 = (left, right) => {
  const [lefts, rights] = [bytesOf(left), bytesOf(right)];
  const known3 = lefts && rights && codesOfBytes(lefts, rights);
  if (known3) return known3;
  const a = asDictionary(left);
  const b = asDictionary(right);
  if (a.dictionary === b.dictionary) return { left: a.indices, right: b.indices, bound: a.dictionary.length };
  const { map: map2, bound } = wordMap(b.dictionary, a.dictionary);
  const codes = uint32s(b.indices.length);
  kernels().lookUp(b.indices, map2, codes);
  return { left: a.indices, right: codes, bound };
};
var sharedCodes = (left, right) => {
  if (isTextColumn(left) && isTextColumn(right)) return codesOfTexts3(left, right);
  const both2 = [left, right];
  const spans = both2.map((column) => column.type === "decimal" ? [-Infinity, Infinity] : rangeOf(column));
  const low = Math.min(...spans.map(([from = 0]) => from));
  const high = Math.max(...spans.map(([, to = 0]) => to));
  if (high - low < Math.max(widestRange, 2 * (lengthOf(left) + lengthOf(right)))) {
    const [a, b] = both2.map((column) => codesOfRange(column, low - 1, void 0));
    return { left: a, right: b, bound: Math.max(1, high - low + 2) };
  }
  const { codes, bound } = codesOf(concat(left.type, both2));
  const count3 = lengthOf(left);
  return { left: codes.subarray(0, count3), right: codes.subarray(count3), bound };
};

// core/src/table/rows-in-order.ts
var longest;
var fill = (index) => {
  const n = index.length;
  for (let i = 0; i < n; i++) index[i] = i;
};
var rowsInOrder = (count3) => {
  let all = longest?.deref();
  if (!all || all.length < count3) {
    all = int32s(count3);
    fill(all);
    longest = new WeakRef(all);
  }
  return all.length === count3 ? all : all.subarray(0, count3);
};
var isRowsInOrder = (index) => index.byteOffset === 0 && index.buffer === longest?.deref()?.buffer;
var orders = /* @__PURE__ */ new WeakMap();
var markAscending = (index) => {
  orders.set(index, { ordered: true, different: index.length });
  return index;
};
var rowsAndOthers = (count3, others) => {
  const index = int32s(count3 + others);
  index.set(rowsInOrder(count3));
  index.fill(-1, count3);
  orders.set(index, { ordered: true, different: count3 });
  return index;
};
var isAscending = (index) => isRowsInOrder(index) || orders.get(index)?.different === index.length;
var rowOrder = (index) => {
  if (isRowsInOrder(index)) return { ordered: true, different: index.length };
  const known3 = orders.get(index);
  if (known3) return known3;
  const order2 = lookThrough(index);
  orders.set(index, order2);
  return order2;
};
var lookThrough = (index) => {
  const n = index.length;
  let last = -1;
  let different = 0;
  for (let at = 0; at < n; at++) {
    const row = index[at];
    if (row < 0 || row === last) continue;
    if (row < last) return { ordered: false, different: 0 };
    last = row;
    different++;
  }
  return { ordered: true, different };
};
var areMost = (rows2, rowCount) => {
  if (2 * rows2.length < rowCount) return false;
  const { ordered: ordered2, different } = rowOrder(rows2);
  return ordered2 && different === rows2.length;
};

// core/src/table/group.ts
var LazyGroups = class {
  made;
  count;
  first;
  sizes;
  constructor(first2, sizes) {
    this.count = first2.length;
    this.first = first2;
    this.sizes = sizes;
  }
  get ids() {
    this.made ??= this.make();
    return this.made;
  }
};
var GroupsOfChosen = class extends LazyGroups {
  ofRows;
  rows;
  constructor({ ids, first: first2, sizes }, rows2) {
    super(first2, sizes);
    this.ofRows = ids;
    this.rows = rows2;
  }
  get held() {
    return [this.ofRows, this.rows];
  }
  make() {
    return gatherIndices(this.ofRows, this.rows);
  }
};
var ofGroups = (figures2, order2, to) => {
  const n = order2.length;
  for (let group = 0; group < n; group++) to[group] = figures2[order2[group]];
  return to;
};
var filledOf = (counts2) => {
  let filled2 = 0;
  for (let code2 = 0; code2 < counts2.length; code2++) if (counts2[code2] > 0) filled2++;
  return filled2;
};
var firstsInOrder = (firsts2) => {
  const found2 = int32s(firsts2.length);
  let count3 = 0;
  for (let code2 = 0; code2 < firsts2.length; code2++) if (firsts2[code2] >= 0) found2[count3++] = firsts2[code2];
  return found2.slice(0, count3).sort();
};
var GroupsOfCodes = class extends LazyGroups {
  coded;
  order;
  constructor(coded) {
    const counts2 = kernels().countCodes(coded.codes, coded.bound);
    const firsts2 = firstsInOrder(kernels().firstRows(coded, filledOf(counts2)));
    const order2 = gatherIndices(coded.codes, firsts2);
    super(firsts2, ofGroups(counts2, order2, int32s(order2.length)));
    this.coded = coded;
    this.order = order2;
  }
  get held() {
    return [this.coded.codes];
  }
  make() {
    const { codes, bound } = this.coded;
    const groupOf = int32s(bound);
    this.order.forEach((code2, group) => groupOf[code2] = group);
    const ids = uint32s(codes.length);
    kernels().lookUp(codes, groupOf, ids);
    return ids;
  }
};
var buffersOfGroups = (groups) => (groups instanceof LazyGroups ? groups.held : [groups.ids]).map(({ buffer, byteLength }) => [buffer, byteLength]);
var mostProduct = 1 << 22;
var fitTable = (a, b) => a.bound * b.bound <= mostProduct;
var pairCodes = (a, b) => fitTable(a, b) ? kernels().groupPairs(a, b) : kernels().pairGroups(a.codes, b.codes);
var groupBy = (columns, rowCount) => groupsOf(
  columns.map((column) => () => codesOf(column)),
  rowCount
);
var groupRows = (table, names3) => {
  const positions = names3.map((name2) => table.positionOf(name2));
  const before = table.beforeChoice(positions);
  const codesAmong = (of) => (at) => () => of.codes(at);
  return before?.rows && areMost(before.rows, before.table.rowCount) ? groupsOfChosen([...positions.keys()].map(codesAmong(before.table)), before.rows) : groupsOf(positions.map(codesAmong(table)), table.rowCount);
};
var areFewCodes = ({ codes, bound }) => bound <= Math.max(4096, codes.length >> 3);
var groupsOf = (columns, rowCount) => {
  const [first2, second, ...rest] = columns;
  if (!first2)
    return { ids: uint32s(rowCount), count: rowCount > 0 ? 1 : 0, first: new Int32Array(rowCount > 0 ? 1 : 0) };
  const codes = first2();
  if (!second) return areFewCodes(codes) ? new GroupsOfCodes(codes) : kernels().groupCodes(codes);
  return rest.reduce(
    (groups, column) => pairCodes({ codes: groups.ids, bound: groups.count }, column()),
    pairCodes(codes, second())
  );
};
var groupsOfChosen = (columns, rows2) => {
  const ofChosen = (column) => () => {
    const { codes: codes2, bound } = column();
    return { codes: gatherIndices(codes2, rows2), bound };
  };
  const [first2, ...rest] = columns;
  let codes = first2();
  if (rest.length === 0) return new GroupsOfChosen(kernels().groupCodes(codes, rows2), rows2);
  let groups;
  for (const [k, column] of rest.entries()) {
    const [known3, other] = [codes, column()];
    if (!fitTable(known3, other))
      return groupsOf([() => known3, () => other, ...rest.slice(k + 1)].map(ofChosen), rows2.length);
    groups = kernels().groupPairs(known3, other, rows2);
    codes = { codes: groups.ids, bound: groups.count };
  }
  return new GroupsOfChosen(groups, rows2);
};

// core/src/table/order.ts
var bitsFor = (bound) => Math.ceil(Math.log2(bound));
var reversed = (ranks2, last) => {
  const turned = uint32s(ranks2.length);
  const n = ranks2.length;
  for (let i = 0; i < n; i++) turned[i] = ranks2[i] === last ? last : last - 1 - ranks2[i];
  return turned;
};
var ranksOfText = (column, { descending, natural }) => {
  const { ranks: ranks2, bound } = textRanks(column, natural);
  return { ranks: descending ? reversed(ranks2, bound - 1) : ranks2, bits: bitsFor(bound) };
};
var scaled = (value, scale) => Math.floor(value * scale + 0.5);
var rankFloats = (ranks2, { values, nulls }, scale, [low, high], descending) => {
  const n = ranks2.length;
  for (let i = 0; i < n; i++) {
    if (nulls !== void 0 && (nulls[i >> 3] & 1 << (i & 7)) !== 0) continue;
    const value = values[i];
    const whole5 = Math.floor(value * scale + 0.5);
    if (whole5 / scale !== value) return false;
    ranks2[i] = descending ? high - whole5 : whole5 - low;
  }
  return true;
};
var rankInts = (ranks2, values, [low, high], descending) => {
  const n = ranks2.length;
  for (let i = 0; i < n; i++) ranks2[i] = descending ? high - values[i] : values[i] - low;
};
var scaledRanks = (column, descending, scale) => {
  const { values, nulls } = column;
  const ranks2 = uint32s(values.length);
  const [least2, largest] = rangeOf(column);
  if (least2 > largest) return { ranks: ranks2, bits: 0 };
  const [low, high] = [scaled(least2, scale), scaled(largest, scale)];
  const last = high - low + 1;
  if (!(last < 4294967295)) return void 0;
  if (!(values instanceof Float64Array))
    rankInts(ranks2, values instanceof Int32Array ? values : new Int32Array(values), [low, high], descending);
  else if (!rankFloats(ranks2, column, scale, [low, high], descending)) return void 0;
  if (nulls) fillSet(ranks2, nulls, last);
  return { ranks: ranks2, bits: bitsFor(last + 1) };
};
var floatRanks = (values, empty, descending) => {
  const raw = new Uint32Array(values.buffer, values.byteOffset, values.length * 2);
  const low = uint32s(values.length);
  const high = uint32s(values.length);
  for (let i = 0; i < values.length; i++) {
    const h = raw[2 * i + 1];
    const negative = (h & 2147483648) !== 0;
    const turn = negative !== descending ? 4294967295 : 0;
    low[i] = raw[2 * i] ^ turn;
    high[i] = h ^ (negative ? 0 : 2147483648) ^ turn;
    if (isSet(empty, i)) {
      low[i] = 4294967295;
      high[i] = 4294967295;
    }
  }
  return [
    { ranks: low, bits: 32 },
    { ranks: high, bits: 32 }
  ];
};
var ranksOf = (key) => {
  const { column, descending } = key;
  if (isTextColumn(column)) return [ranksOfText(column, key)];
  const { values, nulls } = column;
  const ranks2 = scaledRanks(column, descending, 1) ?? (values instanceof Float64Array ? scaledRanks(column, descending, 100) : void 0);
  return ranks2 ? [ranks2] : floatRanks(values, nulls, descending);
};
var packed = (words3) => {
  const all = [];
  for (const word2 of words3) {
    const last = all.at(-1);
    if (!last || last.bits + word2.bits > 32 || last.bits === 32) {
      all.push(word2);
      continue;
    }
    const { bits } = last;
    const ranks2 = uint32s(word2.ranks.length);
    for (let i = 0; i < ranks2.length; i++) ranks2[i] = word2.ranks[i] << bits | last.ranks[i];
    all[all.length - 1] = { ranks: ranks2, bits: bits + word2.bits };
  }
  return all;
};
var sortedOrder = (keys, rowCount) => {
  const words3 = packed([...keys].reverse().flatMap(ranksOf));
  return words3.reduce(
    (order2, { ranks: ranks2, bits }) => bits === 0 ? order2 : kernels().sortRows(order2, ranks2, bits),
    void 0
  ) ?? sliceRows(rowCount);
};
var extreme = (column, groupIds, groupCount, largest) => {
  const ranks2 = isTextColumn(column) ? textRanks(column, false).ranks : void 0;
  const best = int32s(groupCount).fill(-1);
  const values = ranks2 ?? (isTextColumn(column) ? uint32s(0) : column.values);
  for (let i = 0, n = lengthOf(column); i < n; i++) {
    if (isNullAt(column, i)) continue;
    const group = groupIds[i];
    const at = best[group];
    if (at < 0 || (largest ? values[i] > values[at] : values[i] < values[at])) best[group] = i;
  }
  return best;
};

// core/src/table/calendar.ts
var dayMs = 864e5;
var daysFromCivil = (year2, month, day) => {
  const y = month <= 2 ? year2 - 1 : year2;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month > 2 ? month - 3 : month + 9) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146097 + dayOfEra - 719468;
};
var civilFromDays = (days4) => {
  const z45 = days4 + 719468;
  const era = Math.floor(z45 / 146097);
  const dayOfEra = z45 - era * 146097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36524) - Math.floor(dayOfEra / 146096)) / 365
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const mp = Math.floor((5 * dayOfYear + 2) / 153);
  const month = mp < 10 ? mp + 3 : mp - 9;
  return {
    year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0),
    month,
    day: dayOfYear - Math.floor((153 * mp + 2) / 5) + 1
  };
};
var firstDay = daysFromCivil(1, 1, 1);
var lastDay = daysFromCivil(9999, 12, 31);
var daysInMonth = (year2, month) => daysFromCivil(month === 12 ? year2 + 1 : year2, month === 12 ? 1 : month + 1, 1) - daysFromCivil(year2, month, 1);
var maybeDays = (year2, month, day) => year2 >= 1 && year2 <= 9999 && month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year2, month) ? daysFromCivil(year2, month, day) : null;
var maybeTime = (hour, minute, second, ms) => hour <= 23 && minute <= 59 && second <= 59 ? ((hour * 60 + minute) * 60 + second) * 1e3 + ms : null;
var two = (n) => n < 10 ? `0${n}` : String(n);
var formatDate = (days4) => {
  const { year: year2, month, day } = civilFromDays(days4);
  return `${String(year2).padStart(4, "0")}-${two(month)}-${two(day)}`;
};
var formatTime = (ms) => {
  const rest = ms % 1e3;
  const seconds = (ms - rest) / 1e3;
  const text3 = `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
  return rest === 0 ? text3 : `${text3}.${String(rest).padStart(3, "0")}`;
};
var dayOf = (ms) => Math.floor(ms / dayMs);
var timeOf = (ms) => ms - dayOf(ms) * dayMs;
var formatDateTime = (ms) => `${formatDate(dayOf(ms))}T${formatTime(timeOf(ms))}`;
var isoDate = /^(\d{4})-(\d{2})-(\d{2})$/;
var isoTime = /^(\d{2}):(\d{2})(?::(\d{2})(?:\.(\d{1,3}))?)?$/;
var maybeIsoDate = (text3) => {
  const m = isoDate.exec(text3);
  return m ? maybeDays(Number(m[1]), Number(m[2]), Number(m[3])) : null;
};
var maybeIsoTime = (text3) => {
  const m = isoTime.exec(text3);
  return m ? maybeTime(Number(m[1]), Number(m[2]), Number(m[3] ?? 0), Number((m[4] ?? "").padEnd(3, "0"))) : null;
};
var maybeIsoDateTime = (text3) => {
  if (text3[10] !== "T" && text3[10] !== " ") return null;
  const days4 = maybeIsoDate(text3.slice(0, 10));
  const ms = maybeIsoTime(text3.slice(11));
  return days4 === null || ms === null ? null : days4 * dayMs + ms;
};
var civilRange = (days4) => days4 >= firstDay && days4 <= lastDay;

// core/src/table/cell-text.ts
var textOfCell = (type, cell) => {
  if (typeof cell === "string") return cell;
  if (typeof cell === "boolean") return cell ? "true" : "false";
  if (type === "date") return formatDate(cell);
  if (type === "time") return formatTime(cell);
  if (type === "datetime") return formatDateTime(cell);
  return type === "integer" ? String(cell) : formatDecimal(cell);
};

// core/src/table/value-counts.ts
var select = (values, n, k) => {
  let from = 0;
  let to = n - 1;
  while (from < to) {
    const middle = from + to >> 1;
    const [a, b, c] = [values[from], values[middle], values[to]];
    const pivot2 = Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));
    let i = from;
    let j = to;
    while (i <= j) {
      while (values[i] < pivot2) i++;
      while (values[j] > pivot2) j--;
      if (i > j) break;
      const swapped = values[i];
      values[i++] = values[j];
      values[j--] = swapped;
    }
    if (k <= j) to = j;
    else if (k >= i) from = i;
    else return;
  }
};
var middleOf = (values) => {
  const n = values.length;
  const middle = n >> 1;
  select(values, n, middle);
  if (n % 2 === 1) return values[middle];
  let below = -Infinity;
  for (let i = 0; i < middle; i++) below = Math.max(below, values[i]);
  return (below + values[middle]) / 2;
};

// core/src/table/aggregate.ts
var aggregates = [
  "count",
  "filled",
  "distinct",
  "sum",
  "mean",
  "median",
  "min",
  "max",
  "deviation",
  "first",
  "last",
  "list",
  "join",
  "any",
  "every",
  "share"
];
var nothingFailed = int32s(0);
var whole = (counts2) => ({
  column: { type: "integer", values: new Float64Array(counts2), nulls: void 0 },
  failures: nothingFailed
});
var countRows = (groups) => groups.sizes ?? kernels().countCodes(groups.ids, groups.count);
var countCells = (column, groups) => {
  const { ids, count: count3 } = groups;
  if (!isTextColumn(column) && !column.nulls) return countRows(groups);
  const counts2 = int32s(count3);
  if (!isTextColumn(column)) countFilled2(ids, column.nulls, counts2);
  else if (column.form === "dictionary") countCoded(ids, column.indices, counts2);
  else for (let i = 0; i < ids.length; i++) if (!isNullAt(column, i)) counts2[ids[i]] = counts2[ids[i]] + 1;
  return counts2;
};
var countFilled2 = (ids, nulls, counts2) => {
  const n = ids.length;
  for (let i = 0; i < n; i++) if ((nulls[i >> 3] & 1 << (i & 7)) === 0) counts2[ids[i]]++;
};
var countCoded = (ids, codes, counts2) => {
  const n = ids.length;
  for (let i = 0; i < n; i++) if (codes[i] !== 0) counts2[ids[i]]++;
};
var figures = (type, filled2, figure2) => {
  const values = float64s(filled2.length);
  const nulls = bitmap(filled2.length);
  const failures = new IntList();
  let empty = 0;
  const limit = type === "integer" ? maxInteger : Number.MAX_VALUE;
  for (let g = 0; g < filled2.length; g++) {
    const value = filled2[g] === 0 ? NaN : figure2(g);
    if (Math.abs(value) <= limit) values[g] = value === 0 ? 0 : value;
    else {
      set(nulls, g);
      empty++;
      if (filled2[g] !== 0) failures.push(g);
    }
  }
  return { column: { type, values, nulls: empty > 0 ? nulls : void 0 }, failures: failures.done() };
};
var codesOfGroups = ({ ids, count: count3 }) => ({ codes: ids, bound: count3 });
var distinct = (column, groups) => {
  const cells = groupBy([column], lengthOf(column));
  const counts2 = int32s(groups.count);
  const pairs = groups.count === 1 ? cells : pairCodes(codesOfGroups(groups), codesOfGroups(cells));
  for (const row of pairs.first) if (!isNullAt(column, row)) counts2[groups.ids[row]] = counts2[groups.ids[row]] + 1;
  return whole(counts2);
};
var bucketed = ({ values, nulls }, { ids, count: count3 }) => {
  const starts = int32s(count3 + 1);
  for (let i = 0; i < ids.length; i++) if (!isSet(nulls, i)) starts[ids[i] + 1] = starts[ids[i] + 1] + 1;
  for (let g = 0; g < count3; g++) starts[g + 1] = starts[g + 1] + starts[g];
  const next = starts.slice();
  const numbers4 = float64s(starts[count3]);
  for (let i = 0; i < ids.length; i++) {
    if (isSet(nulls, i)) continue;
    const at = next[ids[i]];
    numbers4[at] = values[i];
    next[ids[i]] = at + 1;
  }
  return { starts, numbers: numbers4 };
};
var medians = (column, groups) => {
  if (column.type !== "integer" && column.type !== "decimal") throw new Error(`median of ${column.type}`);
  const { starts, numbers: numbers4 } = bucketed(column, groups);
  return figures(
    "decimal",
    Int32Array.from({ length: groups.count }, (_, g) => starts[g + 1] - starts[g]),
    (g) => middleOf(numbers4.subarray(starts[g], starts[g + 1]))
  );
};
var oneOf = (column, groups, order2, last) => {
  const rows2 = int32s(groups.count).fill(-1);
  for (let k = 0; k < groups.ids.length; k++) {
    const i = order2 ? order2[k] : k;
    if (last || rows2[groups.ids[i]] === -1) rows2[groups.ids[i]] = i;
  }
  return { column: gather(column, rows2), failures: nothingFailed };
};
var gathered = (column, groups, order2, make, type) => {
  const items2 = Array.from({ length: groups.count }, () => []);
  for (let k = 0; k < groups.ids.length; k++) {
    const i = order2 ? order2[k] : k;
    const cell = cellAt(column, i);
    if (cell !== null) items2[groups.ids[i]]?.push(cell);
  }
  const writer = columnWriter(type, groups.count);
  items2.forEach((list3, g) => writer.set(g, make(list3) || null));
  return { column: writer.done(), failures: nothingFailed };
};
var anyOrEvery = (column, groups, every) => {
  const writer = columnWriter("boolean", groups.count);
  const held = int32s(groups.count).fill(-1);
  for (let i = 0; i < groups.ids.length; i++) {
    const cell = cellAt(column, i);
    if (cell === null) continue;
    const g = groups.ids[i];
    const one2 = cell === true ? 1 : 0;
    if (held[g] === -1) held[g] = one2;
    else held[g] = every ? Math.min(held[g], one2) : Math.max(held[g], one2);
  }
  held.forEach((value, g) => value >= 0 && writer.set(g, value === 1));
  return { column: writer.done(), failures: nothingFailed };
};
var deviations = (values, empty, groups, filled2) => {
  const firsts2 = float64s(groups.count).fill(NaN);
  for (let i = 0; i < values.length; i++)
    if (!isSet(empty, i) && Number.isNaN(firsts2[groups.ids[i]])) firsts2[groups.ids[i]] = values[i];
  const above = float64s(values.length);
  for (let i = 0; i < values.length; i++) above[i] = values[i] - firsts2[groups.ids[i]];
  const { groupTotals: groupTotals3 } = kernels();
  const { sums: means } = groupTotals3(above, empty, groups.ids, groups.count);
  for (let g = 0; g < means.length; g++) means[g] = means[g] / filled2[g];
  for (let i = 0; i < values.length; i++) above[i] = (above[i] - means[groups.ids[i]]) ** 2;
  const { sums: totals } = groupTotals3(above, empty, groups.ids, groups.count);
  return figures(
    "decimal",
    filled2.map((n) => n < 2 ? 0 : n),
    (g) => Math.sqrt(totals[g] / (filled2[g] - 1))
  );
};
var itemOf = (type) => (cell) => typeof cell === "boolean" || type === "integer" || type === "decimal" ? cell : textOfCell(type, cell);
var totalsOf = ({ values, nulls }, rows2, groups) => {
  const { groupTotals: groupTotals3 } = kernels();
  if (groups instanceof GroupsOfChosen && groups.rows === rows2)
    return groupTotals3(values, nulls, groups.ofRows, groups.count);
  if (!(groups instanceof GroupsOfCodes) || rows2) return groupTotals3(values, nulls, groups.ids, groups.count, rows2);
  const { coded, order: order2 } = groups;
  const { sums, counts: counts2 } = groupTotals3(values, nulls, coded.codes, coded.bound);
  return {
    sums: ofGroups(sums, order2, float64s(order2.length)),
    counts: ofGroups(counts2, order2, int32s(order2.length))
  };
};
var totalled = (how, { whole: column, rows: rows2 }, groups, type) => {
  if (column.type !== "integer" && column.type !== "decimal") throw new Error(`${how} of ${column.type}`);
  const { sums, counts: counts2 } = totalsOf(column, rows2, groups);
  if (how === "mean") return figures("decimal", counts2, (g) => sums[g] / counts2[g]);
  if (how === "sum") return figures(type === "integer" ? "integer" : "decimal", counts2, (g) => sums[g]);
  const grand = compensatedSum(sums);
  return figures("decimal", counts2, (g) => grand === 0 ? NaN : sums[g] / grand);
};
var aggregate = ({ how, separator = ", ", order: order2 }, column, groups, type) => {
  if (column === void 0 || how === "count") return whole(countRows(groups));
  switch (how) {
    case "filled":
      return whole(countCells(column, groups));
    case "distinct":
      return distinct(column, groups);
    case "median":
      return medians(column, groups);
    case "min":
    case "max":
      return {
        column: gather(column, extreme(column, groups.ids, groups.count, how === "max")),
        failures: nothingFailed
      };
    case "first":
    case "last":
      return oneOf(column, groups, order2, how === "last");
    case "list":
      return gathered(column, groups, order2, (items2) => listText(items2.map(itemOf(column.type))), "list");
    case "join":
      return gathered(
        column,
        groups,
        order2,
        (items2) => items2.map((item) => textOfCell(column.type, item)).join(separator),
        "text"
      );
    case "any":
    case "every":
      return anyOrEvery(column, groups, how === "every");
    case "sum":
    case "mean":
    case "share":
      return totalled(how, { whole: column, rows: void 0 }, groups, type);
    case "deviation":
      if (column.type !== "integer" && column.type !== "decimal") throw new Error(`${how} of ${column.type}`);
      return deviations(column.values, column.nulls, groups, countCells(column, groups));
  }
};

// core/src/table/own.ts
var ownValue = (record, word2) => record !== void 0 && Object.hasOwn(record, word2) ? record[word2] : void 0;
var setOwnValue = (record, word2, value) => {
  Object.defineProperty(record, word2, { value, writable: true, enumerable: true, configurable: true });
  return value;
};

// core/src/table/held-buffers.ts
var columnBuffers = (column) => {
  if (isTextColumn(column)) {
    if (column.form === "dictionary")
      return [
        [column.indices.buffer, column.indices.byteLength],
        [column.dictionary, column.dictionary.length * bytesAString]
      ];
    return column.stored ? [...column.stored.buffers] : [[column.strings, column.strings.length * bytesAString]];
  }
  const codes = heldCodes(column);
  return [
    [column.values.buffer, column.values.byteLength],
    ...codes ? [[codes.buffer, codes.byteLength]] : [],
    ...column.nulls ? [[column.nulls.buffer, column.nulls.byteLength]] : []
  ];
};

// core/src/table/lazy-column.ts
var areFew = (rows2, of) => 16 * rows2.length < of;
var LazyColumn = class {
  source;
  made;
  constructor(source) {
    this.source = source;
  }
  get type() {
    return this.source.type;
  }
  get length() {
    return this.source.length;
  }
  cell(row) {
    return this.made ? cellAt(this.made, row) : this.source.cell(row);
  }
  /** All its cells; made once. */
  get column() {
    this.made ??= this.source.make();
    return this.made;
  }
  /** The cells of some rows; -1 is empty. Few of them are made alone. */
  gather(rows2) {
    const { length, type, inParts } = this.source;
    if (this.made || inParts || !areFew(rows2, length)) return gather(this.column, rows2);
    const writer = columnWriter(type, rows2.length);
    rows2.forEach((row, i) => row >= 0 && writer.set(i, this.cell(row)));
    return writer.done();
  }
  /** The column of every so many cells from one on, where there is one. */
  turn(step, from) {
    const { turns } = this.source;
    return turns?.length === step ? turns[from] : void 0;
  }
  /** A code a row, so that equal cells have equal codes, of all or of chosen rows. */
  codes(rows2) {
    return this.made || !this.source.codes ? codesOf(this.column, rows2) : this.source.codes(rows2);
  }
  /** Whether the codes of cells are had without looking for equal ones, and are fewer than `most`. */
  hasCodes(most) {
    return this.made ? codingOf(this.made, most) !== void 0 : this.source.codes !== void 0;
  }
  get buffers() {
    return [...this.source.holds(), ...this.made ? columnBuffers(this.made) : []];
  }
  /** Forgets its cells where they can be had again. */
  release() {
    if (this.source.again) this.made = void 0;
  }
};

// core/src/table/selection.ts
var composed = (index, inner) => {
  const result = int32s(index.length);
  if (isComplete(index)) pickRows(result, index, inner);
  else pickRowsOfSome(result, index, inner);
  if (isAscending(index) && isAscending(inner)) markAscending(result);
  return isComplete(index) && isComplete(inner) ? markComplete(result) : result;
};
var pickRows = (to, index, inner) => {
  const n = index.length;
  for (let i = 0; i < n; i++) to[i] = inner[index[i]];
};
var pickRowsOfSome = (to, index, inner) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = index[i] < 0 ? -1 : inner[index[i]];
};
var selections = /* @__PURE__ */ new WeakMap();
var Selection = class _Selection {
  index;
  inner;
  constructor(index, inner) {
    this.index = index;
    this.inner = inner;
  }
  /** The one selection of these rows. */
  static of(rows2) {
    const selection = selections.get(rows2) ?? new _Selection(rows2, void 0);
    selections.set(rows2, selection);
    return selection;
  }
  /** Rows that are chosen of these by their places; -1 is an empty row. */
  chosen(places3) {
    return new _Selection(places3, this);
  }
  get length() {
    return this.index.length;
  }
  /** The row at a place. */
  at(place) {
    const row = this.index[place];
    return this.inner && row >= 0 ? this.inner.at(row) : row;
  }
  /** All rows. */
  get rows() {
    if (this.inner) {
      this.index = composed(this.index, this.inner.rows);
      this.inner = void 0;
      selections.set(this.index, this);
    }
    return this.index;
  }
  get buffers() {
    return [[this.index.buffer, this.index.byteLength], ...this.inner?.buffers ?? []];
  }
};

// core/src/table/table.ts
var isLazy = (base) => base instanceof LazyColumn;
var hasFewCodes = (base) => isLazy(base) ? base.hasCodes(fewCodes) : codingOf(base, fewCodes) !== void 0;
var fewCodes = 65536;
var lengthOfBase = (base) => isLazy(base) ? base.length : lengthOf(base);
var ColumnView = class _ColumnView {
  base;
  chosen;
  /** The view that rows were chosen of, which is itself of chosen rows, and these rows. */
  origin;
  /** Whether the cells of rows chosen of this view were asked for. */
  asked = false;
  constructor(base, chosen, origin) {
    this.base = base;
    this.chosen = chosen;
    this.origin = origin;
  }
  /**
   * Before all cells are asked for. Rows chosen of chosen rows are gathered by both choices at once; where most rows of one view are
   * chosen again and again, as a sentence behind it is edited, its cells are gathered once and all later choices are of these.
   */
  settle() {
    const { origin } = this;
    this.origin = void 0;
    if (!origin || !this.chosen) return;
    const { view, chosen } = origin;
    if (view.chosen && !(view.asked && areMost(chosen.rows, view.length))) {
      view.asked = true;
      return;
    }
    this.base = view.gathered;
    this.chosen = chosen;
  }
  get type() {
    return this.base.type;
  }
  get column() {
    this.settle();
    const base = this.gathered;
    return isLazy(base) ? base.column : base;
  }
  /** What cells stand in, row for row. */
  get gathered() {
    const { base, chosen } = this;
    if (!chosen) return base;
    this.base = isLazy(base) ? base.gather(chosen.rows) : gather(base, chosen.rows);
    this.chosen = void 0;
    return this.base;
  }
  /** Every so many cells from one on: a a b b c c, 2, 1 -> a b c. */
  everyOf(step, from) {
    const { base, chosen } = this;
    const turn = !chosen && isLazy(base) ? base.turn(step, from) : void 0;
    if (turn) return turn;
    const { column } = this;
    return gather(column, sliceRows(lengthOf(column) / step, from, step));
  }
  cell(row) {
    const at = this.chosen ? this.chosen.at(row) : row;
    if (at < 0) return null;
    return isLazy(this.base) ? this.base.cell(at) : cellAt(this.base, at);
  }
  isEmpty(row) {
    const at = this.chosen ? this.chosen.at(row) : row;
    if (at < 0) return true;
    return isLazy(this.base) ? this.base.cell(at) === null : isNullAt(this.base, at);
  }
  /** `compose` is shared by the slots of one table, so that equal selections are composed once. */
  taken(chosen, compose) {
    return this.chosen ? new _ColumnView(this.base, compose(this.chosen), { view: this, chosen }) : new _ColumnView(this.base, chosen);
  }
  /** Whether both are views of one column: rows that come from one another then hold the same cells. */
  sharesColumn(other) {
    return this.base === other.base;
  }
  release() {
    if (isLazy(this.base)) this.base.release();
  }
  /** Codes of the cells. Where rows repeat those of a column, its own are coded. */
  get codes() {
    this.settle();
    const { base } = this;
    const index = this.chosen?.rows;
    if (index && lengthOfBase(base) > 2 * index.length && !hasFewCodes(base)) return codesOf(this.column);
    const rows2 = index && isComplete(index) && lengthOfBase(base) > index.length >> 2 ? index : void 0;
    const { codes, bound } = isLazy(base) ? base.codes(rows2) : codesOf(base, rows2);
    return { codes: index && !rows2 ? gatherIndices(codes, index) : codes, bound };
  }
  get length() {
    return this.chosen?.length ?? lengthOfBase(this.base);
  }
  get buffers() {
    const { base, chosen } = this;
    const held = isLazy(base) ? base.buffers : columnBuffers(base);
    return [...held, ...chosen?.buffers ?? []];
  }
  /** The column as it stands under the rows that were chosen of it. */
  get whole() {
    this.settle();
    return { view: new _ColumnView(this.base), chosen: this.chosen };
  }
};
var isAll = (index, rowCount) => {
  const n = index.length;
  if (n !== rowCount) return false;
  if (isRowsInOrder(index)) return true;
  for (let i = 0; i < n; i++) if (index[i] !== i) return false;
  return true;
};
var manyColumns = 16;
var Table = class _Table {
  names;
  slots;
  positions;
  rowCount;
  constructor(names3, slots, rowCount) {
    this.names = names3;
    this.slots = slots;
    this.rowCount = rowCount;
  }
  /** Columns of equal length; `rowCount` is needed only where there are none. */
  static of(names3, columns, rowCount) {
    const [first2] = columns;
    return new _Table(
      names3,
      columns.map((column) => new ColumnView(column)),
      rowCount ?? (first2 ? lengthOfBase(first2) : 0)
    );
  }
  get schema() {
    return this.names.map((name2, i) => ({ name: name2, type: this.slots[i].type }));
  }
  /** Everything that this table keeps in memory; buffers shared between columns stand more than once. */
  get buffers() {
    return this.slots.flatMap((slot2) => slot2.buffers);
  }
  /** Forgets the columns that lie in a file; they are read again when somebody needs them. */
  release() {
    for (const slot2 of this.slots) slot2.release();
  }
  /** The position of a column, -1 where there is none; wide tables are asked for each of their columns, so positions are kept. */
  positionOf(name2) {
    if (this.names.length < manyColumns) return this.names.indexOf(name2);
    this.positions ??= new Map(this.names.map((one2, i) => [one2, i]));
    return this.positions.get(name2) ?? -1;
  }
  column(at) {
    return this.slots[at].column;
  }
  /** Every so many cells of a column from one on: a a b b c c, 2, 1 -> a b c. */
  everyOf(at, step, from) {
    return this.slots[at].everyOf(step, from);
  }
  /** The column of that name; asking for one that is not there is a fault of ours. */
  named(name2) {
    const at = this.positionOf(name2);
    if (at < 0) throw new Error(`no column named ${name2}`);
    return this.column(at);
  }
  /** A code a row of a column, so that equal cells have equal codes. */
  codes(at) {
    return this.slots[at].codes;
  }
  /** Whether column `at` here and column `there` of another table are views of one column, found without gathering any cell. */
  sharesColumn(at, other, there3) {
    return this.slots[at].sharesColumn(other.slots[there3]);
  }
  /**
   * The columns at these positions as they stand under the rows that were chosen of them, and these rows; no rows where none
   * were chosen. Undefined where the choices differ, or one may name no row.
   */
  beforeChoice(positions) {
    const wholes2 = positions.map((at) => this.slots[at].whole);
    const [first2] = wholes2;
    if (!first2 || wholes2.some(({ chosen }) => chosen !== first2.chosen)) return void 0;
    const rows2 = first2.chosen?.rows;
    if (rows2 && !isComplete(rows2)) return void 0;
    const names3 = positions.map((at) => this.names[at]);
    const views = wholes2.map(({ view }) => view);
    return { table: new _Table(names3, views, first2.view.length), rows: rows2 };
  }
  cell(at, row) {
    return this.slots[at].cell(row);
  }
  isNull(at, row) {
    return this.slots[at].isEmpty(row);
  }
  /** The columns at these positions, in this order, with new names where given. */
  select(positions, names3 = positions.map((p) => this.names[p])) {
    return new _Table(
      names3,
      positions.map((p) => this.slots[p]),
      this.rowCount
    );
  }
  /** The columns of another table of as many rows behind those of this one, all with these names. No cell is gathered. */
  beside(other, names3) {
    return new _Table(names3, [...this.slots, ...other.slots], this.rowCount);
  }
  /** The columns of another table of as many rows put at a position among those of this one. No cell is gathered. */
  around(at, other) {
    const names3 = [...this.names];
    const slots = [...this.slots];
    names3.splice(at, 0, ...other.names);
    slots.splice(at, 0, ...other.slots);
    return new _Table(names3, slots, other.rowCount);
  }
  renamed(names3) {
    return new _Table(names3, this.slots, this.rowCount);
  }
  /** With a column put at a position (`replace` takes the place of the one there), or the rows of it that are those of this table. */
  with(at, name2, column, replace2 = false, rows2) {
    const names3 = [...this.names];
    const slots = [...this.slots];
    names3.splice(at, replace2 ? 1 : 0, name2);
    slots.splice(at, replace2 ? 1 : 0, new ColumnView(column, rows2 && Selection.of(rows2)));
    return new _Table(names3, slots, this.rowCount);
  }
  /** The rows at these positions, in this order; -1 gives a row of empties. No cell is copied yet. */
  rows(index) {
    if (isAll(index, this.rowCount)) return this;
    const chosen = Selection.of(index);
    const known3 = /* @__PURE__ */ new Map();
    const compose = (inner) => {
      const result = known3.get(inner) ?? inner.chosen(index);
      known3.set(inner, result);
      return result;
    };
    return new _Table(
      this.names,
      this.slots.map((slot2) => slot2.taken(chosen, compose)),
      index.length
    );
  }
};

// core/src/messages/words.ts
import { distance } from "fastest-levenshtein";
var capital = (text3) => `${text3[0]?.toUpperCase() ?? ""}${text3.slice(1)}`;
var quoted = (text3) => `\u201C${text3}\u201D`;
var listed = (items2, last = "and") => items2.length <= 1 ? items2[0] ?? "" : `${items2.slice(0, -1).join(", ")} ${last} ${items2.at(-1) ?? ""}`;
var figure = (n) => n.toLocaleString("en-GB");
var groupedFrom = 5;
var groupedNumber = (text3) => {
  const [whole5 = "", ...decimals2] = text3.split(".");
  if (!/^-?\d+$/.test(whole5) || whole5.replace("-", "").length < groupedFrom) return text3;
  return [whole5.replace(/\B(?=(?:\d{3})+$)/g, ","), ...decimals2].join(".");
};
var counted = (n, one2, many = `${one2}s`) => `${figure(n)} ${n === 1 ? one2 : many}`;
var typeWords = {
  text: "text",
  integer: "a whole number",
  decimal: "a number",
  boolean: "yes or no",
  date: "a date",
  datetime: "a date and time",
  time: "a time",
  list: "a list"
};
var nearest = (wanted, names3) => {
  const aim = lower(wanted);
  const score = (name2) => {
    const other = lower(name2);
    return other.includes(aim) || aim.includes(other) ? Math.min(distance(aim, other), 2) : distance(aim, other);
  };
  return names3.map((name2) => ({ name: name2, score: score(name2) })).filter(({ name: name2, score: score2 }) => score2 <= Math.max(1, Math.floor(Math.max(name2.length, wanted.length) * 0.4))).sort((a, b) => a.score - b.score).slice(0, 3).map(({ name: name2 }) => name2);
};
var offerOf = (near) => near.length > 0 ? ` Did you mean ${listed(near.map(quoted), "or")}?` : "";

// core/src/formula/problems.ts
var typeWords2 = {
  text: "text",
  integer: "a number",
  decimal: "a number",
  boolean: "true or false",
  date: "a date",
  datetime: "a date and time",
  time: "a time",
  list: "a list",
  empty: "empty"
};
var needWords = {
  number: "numbers",
  text: "text",
  boolean: "a condition",
  moment: "a date",
  clock: "a time",
  list: "a list",
  written: "a number, a date or a time",
  any: "any value"
};
var textPatterns = {
  integer: "0",
  decimal: "0.##",
  date: "yyyy-MM-dd",
  datetime: "yyyy-MM-dd HH:mm",
  time: "HH:mm"
};
var differentTypes = (types, and) => listed([...new Set(types.map((type) => typeWords2[type]))], and);
var argumentsWords = ({ least: least2, most }) => {
  if (least2 === most) return counted(least2, "argument");
  return most === Infinity ? `at least ${counted(least2, "argument")}` : `${least2} to ${most} arguments`;
};
var conversion = (part2, type, need) => {
  if (need === "number") return type === "text" ? " VALUE reads a text as a number." : "";
  if (need !== "text") return "";
  const pattern2 = textPatterns[type];
  return pattern2 === void 0 ? ` ${part2} & "" is its text.` : ` TEXT(${part2}; "${pattern2}") is its text.`;
};
var sentences = {
  "unclosed-text": () => 'This text is not closed: a " is missing.',
  "unclosed-column": () => "This column name is not closed: a ' is missing.",
  "unclosed-comment": () => "This comment is not closed: */ is missing.",
  "unclosed-bracket": () => "A closing bracket ) is missing.",
  "unknown-sign": ({ sign: sign2 }) => `${sign2} has no meaning here.`,
  "expected-operator": ({ found: found2 }) => `An operator or the end was expected here, not ${found2}.`,
  "expected-operand": ({ found: found2 }) => `A column, a value or a function was expected here, not ${found2}.`,
  "stops-early": () => "The formula stops too early: a column, a value or a function is expected.",
  "too-deep": () => "This formula nests too deeply. Part it into several columns.",
  "too-long": ({ most }) => `A formula has at most ${most.toLocaleString("en-GB")} characters. Part it into several columns.`,
  "too-many-parts": ({ most }) => `A formula joins at most ${most.toLocaleString("en-GB")} parts with operators or brackets. Part it into several columns.`,
  "number-too-large": () => "This number is too large.",
  "missing-column": ({ column, nearest: nearest2 }) => `There is no column ${quoted(column)} here.${offerOf(nearest2)}`,
  "missing-parameter": ({ parameter, nearest: nearest2 }) => `The recipe has no parameter ${quoted(parameter)}.${offerOf(nearest2)}`,
  "missing-function": ({ name: name2, nearest: nearest2 }) => `There is no function ${name2}.${nearest2.length > 0 ? ` Did you mean ${listed(nearest2, "or")}?` : ""}`,
  "not-a-number": ({ part: part2, type, operator }) => `${part2} is ${typeWords2[type]}; ${operator} needs numbers.${conversion(part2, type, "number")}`,
  "not-alike": ({ left, leftType, right, rightType }) => `${left} is ${typeWords2[leftType]} and ${right} is ${typeWords2[rightType]}; only like can be compared with like.`,
  "wrong-form": ({ name: name2, needs, count: count3 }) => `${name2} takes ${needs}; it has ${counted(count3, "argument")}.`,
  "wrong-count": ({ name: name2, takes, count: count3 }) => `${name2} takes ${argumentsWords(takes)}, and has ${count3}.`,
  "wrong-argument": ({ part: part2, type, name: name2, needs }) => `${part2} is ${typeWords2[type]}; ${name2} needs ${needWords[needs]} here.${conversion(part2, type, needs)}`,
  "not-constant": ({ argument, name: name2 }) => `The ${argument} of ${name2} must be written out, not taken from a column.`,
  "wrong-constant": ({ reason: reason2 }) => reason2,
  "result-types": ({ name: name2, types }) => `${name2} would give ${differentTypes(types, "or")}; its values must be of one type.`,
  "item-types": ({ name: name2, types }) => `${name2} would hold ${differentTypes(types, "and")}; the items of a list must be of one type.`,
  "list-of-lists": ({ part: part2 }) => `${part2} is a list, and a list cannot hold lists.`,
  "not-a-condition": () => "This formula gives a value, not true or false. Compare it with something."
};
var formulaSentence = (problem) => (
  // the type of the problem pairs each code with its data
  sentences[problem.code](problem)
);
var missingColumn = (problem) => problem.code === "missing-column" ? problem.column : void 0;
var FormulaError = class extends Error {
  problem;
  constructor(problem) {
    super(formulaSentence(problem));
    this.problem = problem;
  }
};

// core/src/reading/column-names.ts
var ColumnNames = class {
  all = [];
  taken = /* @__PURE__ */ new Set();
  /** The number that a name which clashed got last, so that many of one name take no longer than many of many. */
  numbers = /* @__PURE__ */ new Map();
  add(name2) {
    const wanted = name2 === "" ? `Column ${this.all.length + 1}` : name2;
    let free = wanted;
    while (this.taken.has(free)) {
      const n = (this.numbers.get(wanted) ?? 1) + 1;
      this.numbers.set(wanted, n);
      free = `${wanted} ${n}`;
    }
    this.all.push(free);
    this.taken.add(free);
  }
};

// core/src/reading/date-pattern.ts
var monthNames = [
  "january",
  "february",
  "march",
  "april",
  "may",
  "june",
  "july",
  "august",
  "september",
  "october",
  "november",
  "december"
];
var weekdayNames = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];
var oneOf2 = (names3, short) => names3.flatMap((name2) => name2.length > short ? [name2, name2.slice(0, short)] : [name2]).join("|");
var monthWords = `${oneOf2(monthNames, 3)}|sept`;
var weekdayWords = oneOf2(weekdayNames, 3);
var letters = {
  yyyy: ["([0-9]{4})", "year"],
  y: ["([0-9]{4})", "year"],
  yy: ["([0-9]{2})", "year2"],
  M: ["([0-9]{1,2})", "month"],
  MM: ["([0-9]{2})", "month"],
  MMM: [`(${monthWords})`, "monthName"],
  MMMM: [`(${monthWords})`, "monthName"],
  d: ["([0-9]{1,2})", "day"],
  dd: ["([0-9]{2})", "day"],
  H: ["([0-9]{1,2})", "hour"],
  HH: ["([0-9]{2})", "hour"],
  h: ["([0-9]{1,2})", "hour12"],
  hh: ["([0-9]{2})", "hour12"],
  m: ["([0-9]{1,2})", "minute"],
  mm: ["([0-9]{2})", "minute"],
  s: ["([0-9]{1,2})", "second"],
  ss: ["([0-9]{2})", "second"],
  S: ["([0-9]{1})", "ms"],
  SS: ["([0-9]{2})", "ms"],
  SSS: ["([0-9]{3})", "ms"],
  a: ["(am|pm|a\\.m\\.|p\\.m\\.)", "half"],
  EEE: [`(${weekdayWords})`, "weekday"],
  EEEE: [`(${weekdayWords})`, "weekday"]
};
var literal = (text3) => text3.replace(/[.*+?^${}()|[\]\\/]/g, "\\$&");
var datePatternParts = (pattern2) => (pattern2.match(/'(?:[^']|'')*'|([A-Za-z])\1*|[^A-Za-z']/g) ?? []).map((token) => {
  if (token === "''") return "''";
  if (token.startsWith("'")) return `'${token.slice(1, -1).replaceAll("''", "'")}`;
  if (/[A-Za-z]/.test(token)) return token;
  return `'${token}`;
});
var compileDatePattern = (pattern2) => {
  let source = "";
  const fields = [];
  const tokens = pattern2.match(/'(?:[^']|'')*'|([A-Za-z])\1*|[^A-Za-z']/g) ?? [];
  if (tokens.join("") !== pattern2) return { problem: `the quote in \u201C${pattern2}\u201D is not closed` };
  for (const token of tokens) {
    if (token.startsWith("'")) source += literal(token === "''" ? "'" : token.slice(1, -1).replaceAll("''", "'"));
    else if (/[A-Za-z]/.test(token)) {
      const known3 = ownValue(letters, token);
      if (!known3) return { problem: `\u201C${token}\u201D is not a part of a date pattern` };
      source += known3[0];
      fields.push(known3[1]);
    } else source += literal(token);
  }
  if (fields.includes("minute") && !fields.includes("hour") && !fields.includes("hour12") && (fields.includes("day") || fields.includes("year")))
    return { problem: `\u201C${pattern2}\u201D reads minutes where months seem meant: months are MM, minutes mm` };
  if (fields.length === 0) return { problem: `\u201C${pattern2}\u201D has no day, month, year or time in it` };
  return { pattern: pattern2, source: `^${source}$`, fields };
};
var fullYear = (twoDigits) => (twoDigits < 50 ? 2e3 : 1900) + twoDigits;
var hourOf = (read2) => {
  if (read2.hour12 === void 0) return read2.hour ?? 0;
  if (read2.hour12 < 1 || read2.hour12 > 12) return null;
  return read2.hour12 % 12 + (read2.half ?? 0) * 12;
};
var hasYear = ({ fields }) => fields.includes("year") || fields.includes("year2");
var dateReader = (compiled4, type, year2) => {
  const expression = new RegExp(compiled4.source, "i");
  return (text3) => {
    const match = expression.exec(text3);
    if (!match) return null;
    const read2 = year2 === void 0 ? {} : { year: year2 };
    compiled4.fields.forEach((field, i) => {
      const part2 = match[i + 1];
      if (field === "monthName")
        read2.month = monthNames.findIndex((name2) => name2.startsWith(part2.slice(0, 3).toLowerCase())) + 1;
      else if (field === "year2") read2.year = fullYear(Number(part2));
      else if (field === "ms") read2.ms = Number(part2.padEnd(3, "0"));
      else if (field === "half") read2.half = part2[0]?.toLowerCase() === "p" ? 1 : 0;
      else if (field !== "weekday") read2[field] = Number(part2);
    });
    const hour = hourOf(read2);
    const time = hour === null ? null : maybeTime(hour, read2.minute ?? 0, read2.second ?? 0, read2.ms ?? 0);
    if (time === null) return null;
    if (type === "time") return time;
    const days4 = read2.year === void 0 ? null : maybeDays(read2.year, read2.month ?? 1, read2.day ?? 1);
    if (days4 === null) return null;
    return type === "date" ? days4 : days4 * dayMs + time;
  };
};

// core/src/reading/convert.ts
var trueWords = ["true", "yes", "y", "t", "1"];
var falseWords = ["false", "no", "n", "f", "0"];
var readBoolean = (text3) => {
  const word2 = lower(trim(text3));
  if (trueWords.includes(word2)) return true;
  if (falseWords.includes(word2)) return false;
  return null;
};
var readPatterns = (formats2, type, year2) => {
  const readers2 = formats2.map((format) => {
    const compiled4 = compileDatePattern(format);
    if ("problem" in compiled4) throw new Error(compiled4.problem);
    return dateReader(compiled4, type, year2);
  });
  return (text3) => {
    for (const read2 of readers2) {
      const value = read2(text3);
      if (value !== null) return value;
    }
    return null;
  };
};
var readIsoDateTime = (text3) => {
  const whole5 = maybeIsoDateTime(text3);
  if (whole5 !== null) return whole5;
  const days4 = maybeIsoDate(text3);
  return days4 === null ? null : days4 * dayMs;
};
var readList = (text3) => {
  if (!/^\[[\s\S]*\]$/.test(text3)) return null;
  try {
    const items2 = JSON.parse(text3);
    return Array.isArray(items2) && items2.every((item) => item === null || typeof item !== "object") ? JSON.stringify(items2) : null;
  } catch {
    return null;
  }
};
var textReader = ({ type, formats: formats2, locale, year: year2 }) => {
  if (type === "text") return (text3) => text3;
  if (type === "list") return readList;
  if (type === "boolean") return readBoolean;
  if (type === "decimal") return numberReader(locale ?? plainLocale);
  if (type === "integer") {
    const read3 = numberReader(locale ?? plainLocale);
    return (text3) => {
      const value = read3(text3);
      return value === null ? null : toInteger(value);
    };
  }
  const chooseIso = () => {
    if (type === "date") return maybeIsoDate;
    if (type === "time") return maybeIsoTime;
    return readIsoDateTime;
  };
  const iso = chooseIso();
  const read2 = formats2 && formats2.length > 0 ? readPatterns(formats2, type, year2) : iso;
  return (text3) => read2(trim(text3));
};
var toInteger = (value) => {
  const rounded = roundTo(value, 0);
  return Math.abs(rounded) <= maxInteger ? rounded : null;
};
var convertCell = (from, to, read2) => {
  const target = to.type;
  if (from === target) return (cell) => cell;
  if (target === "text") return (cell) => textOfCell(from, cell);
  if (from === "text") return (cell) => read2(cell);
  if (from === "integer" || from === "decimal") {
    if (target === "decimal") return (cell) => cell;
    if (target === "integer") return (cell) => toInteger(cell);
    if (target === "boolean") return (cell) => cell !== 0;
  }
  if (from === "boolean" && (target === "integer" || target === "decimal")) return (cell) => cell ? 1 : 0;
  if (from === "date" && target === "datetime") return (cell) => cell * dayMs;
  if (from === "datetime" && target === "date") return (cell) => dayOf(cell);
  if (from === "datetime" && target === "time") return (cell) => cell - dayOf(cell) * dayMs;
  return () => null;
};
var canConvert = (from, to) => from === to || from === "text" || to === "text" || convertCell(from, { type: to }, () => null)(from === "boolean" ? true : 1) !== null;
var convertDictionary = (source, to, read2) => {
  const { indices, dictionary: dictionary2 } = source;
  const writer = columnWriter(to.type, dictionary2.length);
  const bad = uint8s(dictionary2.length);
  dictionary2.forEach((word2, code2) => {
    if (code2 === 0) return;
    const cell = read2(word2);
    writer.set(code2, cell);
    if (cell === null) bad[code2] = 1;
  });
  const unreadable = bad.includes(1) ? kernels().rowsOfCodes(indices, bad, 1) : int32s(0);
  const changed2 = filledCodes(indices) - unreadable.length;
  const made3 = writer.done();
  const allFilled = changed2 === indices.length;
  return {
    column: layOut(allFilled && !isTextColumn(made3) ? { ...made3, nulls: void 0 } : made3, indices),
    unreadable,
    changed: changed2
  };
};
var fewRows = 1e3;
var writtenByCode = (column, step) => {
  const coded = codesOf(column);
  if (coded.bound > coded.codes.length >> 1) return void 0;
  const first2 = kernels().firstRows(coded);
  const writer = columnWriter("text", coded.bound);
  for (let code2 = 1; code2 < coded.bound; code2++)
    if (first2[code2] >= 0) writer.set(code2, step(cellAt(column, first2[code2])));
  const perCode = writer.done();
  return { column: layOut(perCode, coded.codes), unreadable: int32s(0), changed: filledCodes(coded.codes) };
};
var filledCodes = (codes) => {
  const n = codes.length;
  let filled2 = 0;
  for (let i = 0; i < n; i++) if (codes[i] !== 0) filled2++;
  return filled2;
};
var relabelled = (column, type) => {
  const unreadable = int32s(0);
  if (column.type === type) return { column, unreadable, changed: 0 };
  if (column.type === "list" && type === "text")
    return { column: { ...column, type }, unreadable, changed: lengthOf(column) };
  if (column.type === "integer" && type === "decimal") return { column: { ...column, type }, unreadable, changed: 0 };
  return void 0;
};
var cellReader = (column) => {
  if (!isTextColumn(column) || column.form !== "plain") return (row) => cellAt(column, row);
  const text3 = rowReader(column);
  return (row) => text3(row) || null;
};
var convert = (column, to) => {
  const same = relabelled(column, to.type);
  if (same) return same;
  const read2 = textReader(to);
  if (column.type === "text" && column.form === "dictionary") return convertDictionary(column, to, read2);
  const n = lengthOf(column);
  const step = convertCell(column.type, to, read2);
  const written5 = !isTextColumn(column) && to.type === "text" && n > fewRows ? writtenByCode(column, step) : void 0;
  if (written5) return written5;
  const writer = rowWriter(to.type, n);
  const unreadable = new IntList();
  let changed2 = 0;
  const cells = cellReader(column);
  for (let i = 0; i < n; i++) {
    const cell = cells(i);
    if (cell === null) continue;
    const next = step(cell);
    writer.set(i, next);
    if (next === null) unreadable.push(i);
    else if (next !== cell) changed2++;
  }
  return { column: writer.done(), unreadable: unreadable.done(), changed: changed2 };
};

// core/src/reading/sheet-range.ts
var rangePattern = /^[A-Za-z]{1,3}[1-9][0-9]{0,6}:[A-Za-z]{1,3}(?:[1-9][0-9]{0,6})?$/;
var columnNumber = (letters3) => Array.from(letters3.toUpperCase()).reduce((n, letter) => n * 26 + letter.charCodeAt(0) - 64, 0);
var rectangleOf = (range) => {
  const [, a = "A", top = "1", b = "A", bottom] = /^([A-Za-z]+)(\d+):([A-Za-z]+)(\d+)?$/.exec(range) ?? [];
  const columns = [columnNumber(a), columnNumber(b)];
  const rows2 = [Number(top), bottom === void 0 ? Infinity : Number(bottom)];
  return { left: Math.min(...columns), right: Math.max(...columns), top: Math.min(...rows2), bottom: Math.max(...rows2) };
};

// core/src/reading/row-filter.ts
var joinedNames = (rows2) => {
  const [only] = rows2;
  if (rows2.length <= 1) return [...only ?? []];
  const width = Math.max(0, ...rows2.map((row) => row.length));
  const filled2 = rows2.map((row, r) => {
    let last = "";
    return Array.from(
      { length: width },
      (_, c) => r === rows2.length - 1 ? row[c] ?? "" : last = (row[c] ?? "") || last
    );
  });
  return Array.from(
    { length: width },
    (_, c) => [...new Set(filled2.map((row) => row[c]).filter((part2) => part2 !== ""))].join(" ")
  );
};
var headerRows = ({ header: header2 = 1 }) => {
  if (header2 === "none") return [];
  if (typeof header2 === "number") return [header2];
  return header2;
};
var rowLayout = (read2) => {
  const rectangle = read2.range === void 0 ? void 0 : rectangleOf(read2.range);
  const above = rectangle ? rectangle.top - 1 : 0;
  const heads = headerRows(read2).map((head) => head + above).sort((a, b) => a - b);
  const lastHead = heads.at(-1) ?? above;
  return { rectangle, above, heads, lastHead, top: lastHead + (read2.skip ?? 0) };
};
var RowFilter = class {
  seen = 0;
  layout;
  footer;
  names = [];
  held = [];
  constructor(read2) {
    this.layout = rowLayout(read2);
    this.footer = read2.footer ?? 0;
  }
  /** Rows as they stand in the file; what of them is names, and what is body. */
  pass(rows2) {
    const { rectangle, above, heads, lastHead, top } = this.layout;
    const body = this.held;
    let names3;
    for (const whole5 of rows2) {
      const at = ++this.seen;
      if (at <= above || rectangle && at > rectangle.bottom) continue;
      const row = rectangle ? whole5.slice(rectangle.left - 1, rectangle.right) : whole5;
      if (heads.includes(at)) {
        this.names.push(row);
        if (at === lastHead) names3 = this.names;
      } else if (at > top) body.push(row);
    }
    this.held = this.footer === 0 ? [] : body.slice(Math.max(0, body.length - this.footer));
    const ready = this.footer === 0 ? body : body.slice(0, body.length - this.held.length);
    return names3 ? { names: names3, body: ready } : { body: ready };
  }
};

// core/src/reading/type-detection.ts
var integerSource = "^-?(?:0|[1-9][0-9]{0,14})$";
var decimalSource = (decimal) => {
  const d = decimal === "." ? "\\." : decimal;
  return `^-?(?:(?:0|[1-9][0-9]*)${d}[0-9]+|${d}[0-9]+)(?:[eE][-+]?[0-9]+)?$`;
};
var detectText = (locale) => {
  const integer = new RegExp(integerSource);
  const decimal = new RegExp(decimalSource(locale.decimal));
  return (cell) => {
    const text3 = trim(cell);
    if (integer.test(text3)) return "integer";
    if (decimal.test(text3)) return Number.isFinite(Number(text3.replace(locale.decimal, "."))) ? "decimal" : "text";
    if (/^(?:true|false)$/i.test(text3)) return "boolean";
    if (maybeIsoDate(text3) !== null) return "date";
    if (maybeIsoDateTime(text3) !== null) return "datetime";
    if (maybeIsoTime(text3) !== null) return "time";
    return "text";
  };
};
var widen = (a, b) => {
  if (a === b || b === "nothing") return a;
  if (a === "nothing") return b;
  return a === "integer" && b === "decimal" || a === "decimal" && b === "integer" ? "decimal" : "text";
};

// core/src/reading/column-builders.ts
var grown2 = (make, old, length) => {
  const wider = make(Math.max(length, old.length * 2, 1024));
  wider.set(old);
  return wider;
};
var trimmed = (buffer, length) => length > buffer.length * 0.8 ? buffer.subarray(0, length) : buffer.slice(0, length);
var quickInteger = (text3) => {
  const n = text3.length;
  let i = text3.charCodeAt(0) === 45 ? 1 : 0;
  const digits2 = n - i;
  if (digits2 < 1 || digits2 > 15 || digits2 > 1 && text3.charCodeAt(i) === 48) return NaN;
  const negative = i === 1;
  let value = 0;
  for (; i < n; i++) {
    const digit = text3.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return NaN;
    value = value * 10 + digit;
  }
  return negative && value !== 0 ? -value : value;
};
var NumberBuilder = class {
  values;
  emptyRows = [];
  length = 0;
  type = "integer";
  surprised = false;
  decimal;
  integer = new RegExp(integerSource);
  mark;
  sign;
  /** `expected`: how many cells there may be, so that the buffer need not grow. */
  constructor(locale, expected = 1024) {
    this.values = float64s(expected);
    this.decimal = new RegExp(decimalSource(locale.decimal));
    this.sign = locale.decimal;
    this.mark = locale.decimal === "." ? 46 : -1;
  }
  add(text3) {
    if (this.length === this.values.length) this.values = grown2(float64s, this.values, this.length + 1);
    const at = this.length++;
    if (text3 === "") {
      this.emptyRows.push(at);
      return;
    }
    const quick = quickInteger(text3);
    this.values[at] = quick === quick ? quick : this.slow(text3);
  }
  /** Cells of a block. Up to 15 digits and a point are exact as whole number over a power of ten; all else goes by its text. */
  addBlock({ kernel, column, rows: rows2 }) {
    const from = this.length;
    if (from + rows2 > this.values.length) this.values = grown2(float64s, this.values, from + rows2);
    const found2 = kernel.numbers(column, this.mark, this.values, from);
    this.length = from + rows2;
    if (found2 & 2) this.type = "decimal";
    if ((found2 & 1) === 0) return;
    const { flags } = kernel;
    for (let i = 0; i < rows2; i++) {
      if (flags[i] === numberFlags.empty) this.emptyRows.push(from + i);
      else if (flags[i] === numberFlags.other) this.values[from + i] = this.slow(kernel.text(column, i));
    }
  }
  slow(raw) {
    const text3 = raw.trim();
    if (this.integer.test(text3)) return Number(text3);
    if (this.decimal.test(text3)) {
      const value = Number(this.sign === "." ? text3 : text3.replace(this.sign, "."));
      if (Number.isFinite(value)) {
        this.type = "decimal";
        return value === 0 ? 0 : value;
      }
    }
    this.surprised = true;
    return 0;
  }
  /** The cells as they stand, for the builder of the rows above. */
  segment() {
    const { type, surprised } = this;
    const values = trimmed(this.values, this.length);
    return { kind: "numbers", type, values, empty: Int32Array.from(this.emptyRows), surprised };
  }
  /** Cells that another builder read further down the file; `rows` without a number where they are none. */
  append(segment, rows2) {
    const from = this.length;
    if (from + rows2 > this.values.length) this.values = grown2(float64s, this.values, from + rows2);
    this.length = from + rows2;
    if (segment.kind === "blank") for (let i = 0; i < rows2; i++) this.emptyRows.push(from + i);
    else if (segment.kind !== "numbers") this.surprised = true;
    else {
      this.values.set(segment.values, from);
      for (const row of segment.empty) this.emptyRows.push(from + row);
      if (segment.type === "decimal") this.type = "decimal";
      this.surprised ||= segment.surprised;
    }
  }
  done() {
    const empty = this.emptyRows.length > 0 ? bitmap(this.length) : void 0;
    for (const row of this.emptyRows) if (empty) set(empty, row);
    return { type: this.type, values: trimmed(this.values, this.length), nulls: empty };
  }
};

// core/src/reading/segments.ts
var cellTexts = (texts, bytesOf2) => {
  const all = texts.map(bytesOf2);
  const ends2 = uint32s(all.length);
  let length = 0;
  all.forEach((bytes2, i) => ends2[i] = length += bytes2.length);
  const bytes = uint8s(length);
  all.forEach((one2, i) => bytes.set(one2, ends2[i] - one2.length));
  return { bytes, ends: ends2 };
};

// core/src/reading/text-builder.ts
var own = (text3) => text3.length < 13 ? text3 : Array.from(text3).join("");
var Codes = class {
  codes;
  length = 0;
  constructor(expected) {
    this.codes = uint32s(expected);
  }
  /** Room for more; where they begin. */
  extend(rows2) {
    const at = this.length;
    this.length += rows2;
    if (this.length > this.codes.length) this.codes = grown2(uint32s, this.codes, this.length);
    return at;
  }
  get buffer() {
    return this.codes;
  }
  done() {
    return trimmed(this.codes, this.length);
  }
};
var DictionaryOfStrings = class {
  words = [""];
  codes;
  seen = /* @__PURE__ */ new Map([["", 0]]);
  constructor(expected) {
    this.codes = new Codes(expected);
  }
  get length() {
    return this.codes.length;
  }
  get distinct() {
    return this.words.length;
  }
  add(text3) {
    let code2 = this.seen.get(text3);
    if (code2 === void 0) {
      code2 = this.words.length;
      const word2 = own(text3);
      this.words.push(word2);
      this.seen.set(word2, code2);
    }
    const at = this.codes.extend(1);
    this.codes.buffer[at] = code2;
  }
  plain() {
    const codes = this.codes.done();
    return new PlainStrings(Array.from(codes, (code2) => this.words[code2]));
  }
  segment(bytesOf2) {
    return { kind: "codes", codes: this.codes.done(), texts: cellTexts(this.words, bytesOf2) };
  }
  done() {
    return { type: "text", form: "dictionary", indices: this.codes.done(), dictionary: this.words };
  }
};
var PlainStrings = class {
  strings;
  distinct = void 0;
  constructor(strings) {
    this.strings = strings;
  }
  get length() {
    return this.strings.length;
  }
  add(text3) {
    this.strings.push(text3);
  }
  segment(bytesOf2) {
    return { kind: "texts", texts: cellTexts(this.strings, bytesOf2) };
  }
  done() {
    return { type: "text", form: "plain", strings: this.strings };
  }
};
var addTo = (to, from, more) => {
  const n = to.length;
  for (let i = 0; i < n; i++) to[i] = from[i] + more;
};
var PlainBytes = class {
  bytes;
  offsets;
  length = 0;
  distinct = void 0;
  source;
  constructor(source, expected, bytes) {
    this.source = source;
    this.bytes = uint8s(Math.max(1024, bytes));
    this.offsets = uint32s(expected + 1);
  }
  add(text3) {
    const bytes = this.source.bytesOf(text3);
    this.addTexts(bytes, Uint32Array.of(this.size + bytes.length));
  }
  addBlock({ kernel, column }) {
    const { bytes, ends: ends2 } = kernel.texts(column, this.size);
    this.addTexts(bytes, ends2);
  }
  /** The texts with these codes: that of code k ends at `ends[k]`. */
  addCodes(codes, { bytes, ends: ends2 }) {
    const made3 = uint32s(codes.length);
    const { size } = this;
    let length = 0;
    for (let i = 0; i < codes.length; i++) {
      const code2 = codes[i];
      made3[i] = size + (length += code2 === 0 ? 0 : ends2[code2] - ends2[code2 - 1]);
    }
    const texts = uint8s(length);
    let at = 0;
    for (let i = 0; i < codes.length; ) {
      const first2 = codes[i++];
      if (first2 === 0) continue;
      let last = first2;
      for (; codes[i] === last + 1; i++) last++;
      texts.set(bytes.subarray(ends2[first2 - 1], ends2[last]), at);
      at += ends2[last] - ends2[first2 - 1];
    }
    this.addTexts(texts, made3);
  }
  append(segment) {
    if (segment.kind === "codes") return this.addCodes(segment.codes, segment.texts);
    const { bytes, ends: ends2 } = segment.texts;
    const moved2 = uint32s(ends2.length);
    addTo(moved2, ends2, this.size);
    this.addTexts(bytes, moved2);
  }
  segment() {
    const offsets = trimmed(this.offsets, this.length + 1);
    const bytes = trimmed(this.bytes, offsets[this.length]);
    return { kind: "texts", texts: { bytes, ends: offsets.subarray(1) } };
  }
  /** How many bytes there are. */
  get size() {
    return this.offsets[this.length];
  }
  /** Texts behind one another; `ends` are counted on from the bytes that there are. */
  addTexts(bytes, ends2) {
    const { length, size } = this;
    if (length + ends2.length >= this.offsets.length)
      this.offsets = grown2(uint32s, this.offsets, length + ends2.length + 1);
    if (size + bytes.length > this.bytes.length) this.bytes = grown2(uint8s, this.bytes, size + bytes.length);
    this.bytes.set(bytes, size);
    this.offsets.set(ends2, length + 1);
    this.length = length + ends2.length;
  }
  done() {
    const offsets = trimmed(this.offsets, this.length + 1);
    const bytes = trimmed(this.bytes, offsets[this.length]);
    return plainTextFromBytes("text", new LazyStrings(unpacked({ offsets, bytes }, this.source.decoder)));
  }
};
var DictionaryOfBytes = class {
  kernel;
  dictionary;
  source;
  codes;
  /** Of texts that came as strings: `words` with their codes. */
  constructor({ kernel, source }, { words: words3, codes }) {
    this.kernel = kernel;
    this.dictionary = kernel.dictionary();
    this.source = source;
    this.codes = codes;
    this.dictionary.codesOf(cellTexts(words3, (word2) => source.bytesOf(word2)));
  }
  get length() {
    return this.codes.length;
  }
  get distinct() {
    return this.dictionary.size;
  }
  add(text3) {
    const code2 = this.dictionary.codeOf(this.source.bytesOf(text3));
    const at = this.codes.extend(1);
    this.codes.buffer[at] = code2;
  }
  addBlock({ kernel, column, rows: rows2 }) {
    if (kernel !== this.kernel) this.move(kernel);
    const at = this.codes.extend(rows2);
    this.dictionary.codes(column, this.codes.buffer, at);
  }
  /** Rows from a wider one on are cut by another kernel, whose dictionary begins with the texts met so far, by the same codes. */
  move(kernel) {
    const texts = this.dictionary.texts();
    this.kernel = kernel;
    this.dictionary = kernel.dictionary();
    this.dictionary.codesOf(texts);
  }
  plain(room) {
    const { bytes, ends: ends2 } = this.dictionary.texts();
    const rows2 = Math.max(room, this.length);
    const plain4 = new PlainBytes(this.source, rows2, expectedBytes(bytes.length, this.length, rows2));
    plain4.addCodes(this.codes.done(), { bytes, ends: ends2 });
    return plain4;
  }
  /** Codes of another dictionary, whose texts are looked up here once each. */
  append(codes, texts) {
    const map2 = this.dictionary.codesOf(texts);
    const at = this.codes.extend(codes.length);
    kernels().lookUp(codes, map2, this.codes.buffer.subarray(at, at + codes.length));
  }
  segment() {
    return { kind: "codes", codes: this.codes.done(), texts: this.dictionary.texts() };
  }
  done() {
    const { bytes, ends: ends2 } = this.dictionary.texts();
    const decode = this.source.decoder(bytes);
    const dictionary2 = Array.from(ends2, (end, code2) => code2 === 0 ? "" : decode(ends2[code2 - 1], end));
    return { type: "text", form: "dictionary", indices: this.codes.done(), dictionary: dictionary2 };
  }
};
var expectedBytes = (bytes, of, rows2) => Math.ceil(bytes / of * rows2 * 1.05);
var looks = [2e4, 16e4];
var nearlyAllDiffer = (distinct3, rows2, expected) => {
  if (distinct3 <= rows2 / 2) return false;
  return rows2 >= looks[1] || rows2 ** 2 / (2 * Math.max(0, rows2 - distinct3)) > expected / 2;
};
function* textsIn(segment, { decoder }) {
  const { bytes, ends: ends2 } = segment.texts;
  const decode = decoder(bytes);
  const texts = Array.from(ends2, (end, i) => decode(i === 0 ? 0 : ends2[i - 1], end));
  if (segment.kind === "texts") yield* texts;
  else for (const code2 of segment.codes) yield texts[code2];
}
var TextBuilder = class {
  expected;
  room;
  store;
  looked = 0;
  /** `expected`: how many cells the file may have; `room`: how many this builder may get, so that buffers need not grow. */
  constructor(expected = 1024, room = expected) {
    this.expected = expected;
    this.room = room;
    this.store = new DictionaryOfStrings(room);
  }
  add(text3) {
    this.store.add(text3);
    this.chooseEncoding();
  }
  addBlock(block2) {
    const { store } = this;
    const bytes = store instanceof DictionaryOfBytes || store instanceof PlainBytes ? store : this.asBytes(block2);
    bytes.addBlock(block2);
    this.store = bytes;
    this.chooseEncoding();
  }
  /** The cells as they stand, for the builder of the rows above. */
  segment(source) {
    return this.store.segment((text3) => source.bytesOf(text3));
  }
  /** Cells that another builder read further down the file; `rows` empty ones where they are no texts. */
  append(segment, rows2, source) {
    if (segment.kind === "blank" || segment.kind === "numbers") {
      for (let i = 0; i < rows2; i++) this.store.add("");
      return;
    }
    if (this.store instanceof DictionaryOfBytes && segment.kind === "texts") this.store = this.store.plain(this.room);
    const { store } = this;
    if (store instanceof DictionaryOfBytes && segment.kind === "codes") store.append(segment.codes, segment.texts);
    else if (store instanceof PlainBytes) store.append(segment);
    else for (const text3 of textsIn(segment, source)) store.add(text3);
  }
  asBytes(block2) {
    const { store } = this;
    if (store instanceof DictionaryOfStrings) return new DictionaryOfBytes(block2, store);
    const { strings } = store;
    const rows2 = Math.max(this.room, strings.length);
    const characters = strings.reduce((sum, text3) => sum + text3.length, 0);
    const plain4 = new PlainBytes(block2.source, rows2, expectedBytes(characters, strings.length, rows2));
    for (const text3 of strings) plain4.add(text3);
    return plain4;
  }
  /** As a dictionary, or plain where a dictionary would cost more than it saves. */
  chooseEncoding() {
    const { store } = this;
    if (store.length < (looks[this.looked] ?? Infinity)) return;
    this.looked++;
    if (store.distinct === void 0 || !nearlyAllDiffer(store.distinct, store.length, this.expected)) return;
    if (store instanceof DictionaryOfStrings) this.store = store.plain();
    if (store instanceof DictionaryOfBytes) this.store = store.plain(this.room);
  }
  done() {
    return this.store.done();
  }
};

// core/src/reading/table-builder.ts
var detectColumn = (column, locale) => {
  const detect = detectText(locale);
  let type = "nothing";
  const { dictionary: dictionary2 } = column.form === "dictionary" ? column : { dictionary: void 0 };
  const text3 = column.form === "dictionary" ? (code2) => column.dictionary[code2] : rowReader(column);
  for (let i = 0, n = dictionary2?.length ?? lengthOf(column); i < n; i++) {
    if (text3(i) === "") continue;
    type = widen(type, detect(text3(i)));
    if (type === "text") return type;
  }
  return type;
};
var looksNumeric = (texts, locale) => {
  const detect = detectText(locale);
  return texts.length > 0 && texts.every((text3) => ["integer", "decimal"].includes(detect(text3)));
};
var TableBuilder = class {
  read;
  locale;
  asText;
  header = new ColumnNames();
  builders = [];
  gate;
  rows = 0;
  blankAt = [];
  raggedRows = 0;
  headerWidth;
  expected = 1024;
  room = 1024;
  /** Columns that are numbers in some rows and text in others. */
  mixed = /* @__PURE__ */ new Set();
  constructor(read2, asText = /* @__PURE__ */ new Set()) {
    this.read = read2;
    this.gate = new RowFilter(read2);
    this.locale = read2.locale ?? plainLocale;
    this.asText = asText;
  }
  /** How many rows the file may have, and which part of them this builder may get: buffers are made for so many at once. */
  expect(rows2, part2 = 1) {
    this.expected = Math.max(1024, rows2);
    this.room = Math.max(1024, Math.ceil(rows2 * part2));
  }
  /** What the builder of rows further down the file has to know; undefined where too little is known yet. */
  get start() {
    const { names: names3, headerWidth: width, expected } = this;
    if (width === void 0 || names3.length === 0) return void 0;
    return { names: names3, width, expected, kinds: names3.map((_, c) => this.builders[c] && kindOf(this.builders[c])) };
  }
  /** Before any row: this builder reads rows further down a file that begins so, a part of its rows. */
  goOn({ names: names3, width, kinds: kinds2, expected }, part2) {
    this.expect(expected, part2);
    this.setNames(names3);
    this.headerWidth = width;
    this.builders = kinds2.map((kind) => kind && this.builderOf(kind));
  }
  /** All rows as they stand, for the builder of the rows above. */
  segment(source) {
    const { rows: rows2, raggedRows, blankAt } = this;
    return { rows: rows2, columns: this.columnSegments(source), raggedRows, blankAt };
  }
  *columnSegments(source) {
    for (const [c] of this.names.entries()) {
      const builder = this.builders[c];
      this.builders[c] = void 0;
      yield builder?.segment(source) ?? { kind: "blank" };
    }
  }
  /** Rows that another builder read, which stand below all that there are. */
  append({ rows: rows2, columns, raggedRows, blankAt }, source) {
    let c = 0;
    for (const column of columns) {
      this.widen(c + 1);
      this.appendColumn(c++, column, rows2, source);
    }
    for (; c < this.names.length; c++) this.appendColumn(c, { kind: "blank" }, rows2, source);
    const above = this.rows + this.blankAt.length;
    for (const at of blankAt) this.blankAt.push(above + at);
    this.rows += rows2;
    this.raggedRows += raggedRows;
  }
  appendColumn(c, segment, rows2, source) {
    const kind = segment.kind === "codes" ? "texts" : segment.kind;
    if (!this.builders[c] && kind === "blank") return;
    const builder = this.builders[c] ?? this.beginAs(c, this.builderOf(kind));
    builder.append(segment, rows2, source);
    if (kind !== "blank" && kind !== kindOf(builder)) this.mixed.add(c);
  }
  add(batch) {
    const { names: names3, body } = this.gate.pass(batch);
    if (names3) this.setNames(joinedNames(names3));
    this.take(body);
  }
  setNames(row) {
    this.headerWidth = row.length;
    for (const name2 of row) this.addColumn(name2);
  }
  get names() {
    return this.header.all;
  }
  addColumn(name2 = "") {
    this.header.add(name2);
    this.builders.push(void 0);
  }
  widen(width) {
    while (this.names.length < width) this.addColumn();
  }
  take(rows2) {
    const filled2 = [];
    for (const row of rows2) {
      if (row.every((cell) => cell === "")) {
        this.blankAt.push(this.rows + filled2.length + this.blankAt.length);
        continue;
      }
      this.headerWidth ??= row.length;
      if (row.length !== this.headerWidth) this.raggedRows++;
      if (row.length > this.names.length) this.widen(row.length);
      filled2.push(row);
    }
    for (let c = 0; c < this.names.length; c++) this.fill(c, filled2);
    this.rows += filled2.length;
  }
  fill(c, rows2) {
    let builder = this.builders[c];
    if (!builder) {
      const first2 = rows2.map((row) => row[c] ?? "").filter((text3) => text3 !== "");
      if (first2.length === 0) return;
      builder = this.begin(c, first2);
    }
    for (let i = 0; i < rows2.length; i++) builder.add(rows2[i][c] ?? "");
  }
  /** A column's first values: what builds it from here on, with the empty rows before them. */
  begin(c, first2) {
    return this.beginAs(c, this.builderFor(this.names[c], first2));
  }
  beginAs(c, builder) {
    for (let i = 0; i < this.rows; i++) builder.add("");
    this.builders[c] = builder;
    return builder;
  }
  builderFor(name2, first2) {
    const type = this.typeGiven(name2)?.type;
    const numeric = type === "integer" || type === "decimal" || type === void 0 && this.read.types !== "text";
    return this.builderOf(numeric && !this.asText.has(name2) && looksNumeric(first2, this.locale) ? "numbers" : "texts");
  }
  builderOf(kind) {
    const { expected, room } = this;
    return kind === "numbers" ? new NumberBuilder(this.locale, room) : new TextBuilder(expected, room);
  }
  typeGiven(name2) {
    const given = typeof this.read.types === "object" ? ownValue(this.read.types, name2) : void 0;
    return given ? { ...given, locale: this.locale } : void 0;
  }
  /**
   * Rows straight from UTF-8 bytes, from a position that begins a row below the names: no string is made of a
   * number, nor of a word met before. Rows are cut in blocks and each block goes column by column; after each the
   * position is yielded. Where the reading ended: the end of the bytes, or a row in which a quote stands as it should not; the
   * caller reads that otherwise.
   */
  *scan(source, from, delimiter, quote2) {
    const width = Math.max(1, this.names.length);
    const kernel = kernels().csv(source, { delimiter, quote: quote2, width });
    for (let at = from; at < source.size; ) {
      const rows2 = kernel.cut(at);
      if (rows2 > 0) {
        this.takeBlock(source, kernel, rows2);
        at = kernel.next;
        yield at;
        continue;
      }
      const next = this.oddRow(source, at, delimiter, quote2);
      if (next < 0) return at;
      at = next;
      if (this.names.length > width) return yield* this.scan(source, at, delimiter, quote2);
    }
    return source.size;
  }
  /** A block of rows of the same width, none of them blank. */
  takeBlock(source, kernel, rows2) {
    const width = this.names.length;
    this.headerWidth ??= width;
    if (width !== this.headerWidth) this.raggedRows += rows2;
    for (let column = 0; column < width; column++) {
      const builder = this.builders[column] ?? this.beginBlock(kernel, column);
      builder?.addBlock({ kernel, source, column, rows: rows2 });
    }
    this.rows += rows2;
  }
  beginBlock(kernel, column) {
    const row = kernel.firstFilled(column);
    return row < 0 ? void 0 : this.begin(column, [kernel.text(column, row)]);
  }
  /** A row that is blank, ragged or holds quotes; where the next one begins, or -1 where a quote is out of place. */
  oddRow(source, from, delimiter, quote2) {
    for (let length = shortRow; ; length *= 8) {
      const bytes = source.block(from, length);
      const row = [];
      const next = cutRow(bytes, source.decoder(bytes), delimiter, quote2, row);
      const whole5 = from + bytes.length === source.size;
      if (!whole5 && (next < 0 || next > bytes.length - 2) && length < longestRow) continue;
      if (next < 0) return -1;
      this.take([row]);
      return from + next;
    }
  }
  get rowCount() {
    return this.rows;
  }
  /** Columns begun as numbers in which another thing was met. */
  get surprises() {
    return this.names.filter((_, c) => {
      const builder = this.builders[c];
      return this.mixed.has(c) || builder instanceof NumberBuilder && builder.surprised;
    });
  }
  typed(name2, column, unreadable) {
    if (isTextColumn(column)) checkTexts(name2, column);
    const given = this.typeGiven(name2);
    const type = given?.type ?? (this.read.types === "text" || column.type !== "text" ? column.type : textIfNothing(detectColumn(column, this.locale)));
    if (column.type === type) return column;
    const converted = convert(column, given ?? { type, locale: this.locale });
    if (converted.unreadable.length > 0)
      unreadable.push({ column: name2, rows: converted.unreadable, texts: firstTexts(column, converted.unreadable) });
    return converted.column;
  }
  done() {
    const unreadable = [];
    const blank2 = /* @__PURE__ */ new Set();
    const columns = this.names.map((name2, c) => {
      const builder = this.builders[c];
      if (builder) return this.typed(name2, builder.done(), unreadable);
      blank2.add(name2);
      return emptyColumn(this.typeGiven(name2)?.type ?? "text", this.rows);
    });
    const notes = {
      ...this.blankAt.length > 0 ? { blankRows: this.blankAt.length } : {},
      ...this.raggedRows > 0 ? { raggedRows: this.raggedRows } : {}
    };
    return { table: Table.of(this.names, columns, this.rows), notes, unreadable, blank: blank2, blankAt: this.blankAt };
  }
};
var kindOf = (builder) => builder instanceof NumberBuilder ? "numbers" : "texts";
var shortRow = 1 << 14;
var cutRow = (bytes, text3, delimiter, quote2, row) => {
  let at = 0;
  for (; ; ) {
    const start = at;
    if (bytes[at] === quote2) {
      const end = closingQuote(bytes, at + 1, quote2);
      if (end < 0) return -1;
      const mark = String.fromCharCode(quote2);
      row.push(text3(start + 1, end).replaceAll(mark + mark, mark));
      at = end + 1;
      if (bytes[at] === 13 && bytes[at + 1] === 10) at++;
      if (at < bytes.length && bytes[at] !== delimiter && bytes[at] !== 10) return -1;
    } else {
      at = nextBreak(bytes, at, delimiter);
      const end = bytes[at] === 10 && at > start && bytes[at - 1] === 13 ? at - 1 : at;
      row.push(text3(start, end));
    }
    if (at >= bytes.length || bytes[at] === 10) return at + 1;
    at++;
  }
};
var nextBreak = (bytes, from, delimiter) => {
  let at = from;
  while (at < bytes.length && bytes[at] !== delimiter && bytes[at] !== 10) at++;
  return at;
};
var closingQuote = (bytes, from, quote2) => {
  for (let at = from; at < bytes.length; at++) {
    if (bytes[at] !== quote2) continue;
    if (bytes[at + 1] !== quote2) return at;
    at++;
  }
  return -1;
};
var checkTexts = (name2, column) => {
  const longest4 = column.form === "plain" ? column.stored?.longest : void 0;
  if (longest4 !== void 0 && longest4 <= maxCellCharacters) return;
  for (const text3 of column.form === "dictionary" ? column.dictionary : column.strings)
    if (text3.length > maxCellCharacters)
      throw new TooLarge(
        `A cell of column ${quoted(name2)} has ${figure(text3.length)} characters, more than the ${figure(maxCellCharacters)} that a cell can hold. A quote may be opened there and never closed.`
      );
};
var textIfNothing = (type) => type === "nothing" ? "text" : type;
var keptTexts = 200;
var firstTexts = (column, rows2) => Array.from(rows2.subarray(0, keptTexts), (row) => String(cellAt(column, row) ?? ""));

// core/src/reading/cell-table-builder.ts
var kinds = ["text", "integer", "decimal", "boolean", "date", "datetime", "time", "list"];
var listKind = kinds.indexOf("list") + 1;
var errorKind = kinds.length + 1;
var maxWhole = Number.MAX_SAFE_INTEGER;
var mostPadded = 5e7;
var paddedAFilled = 100;
var CellBuilder = class {
  tags = uint8s(256);
  numbers = float64s(256);
  texts = [];
  length = 0;
  add(cell) {
    if (this.length === this.tags.length) this.grow();
    const at = this.length++;
    if (cell === null || cell === "") return;
    if (typeof cell === "string") {
      this.tags[at] = 1;
      this.texts[at] = cell;
    } else if (typeof cell === "number") {
      this.tags[at] = Number.isInteger(cell) && Math.abs(cell) <= maxWhole ? 2 : 3;
      this.numbers[at] = cell;
    } else if (typeof cell === "boolean") {
      this.tags[at] = 4;
      this.numbers[at] = cell ? 1 : 0;
    } else if ("list" in cell) {
      this.tags[at] = listKind;
      this.texts[at] = cell.list;
    } else if ("error" in cell) {
      this.tags[at] = errorKind;
      this.texts[at] = cell.error;
    } else {
      this.tags[at] = kinds.indexOf(cell.type) + 1;
      this.numbers[at] = cell.value;
    }
  }
  grow() {
    const tags = uint8s(this.tags.length * 2);
    tags.set(this.tags);
    this.tags = tags;
    const numbers4 = float64s(this.numbers.length * 2);
    numbers4.set(this.numbers);
    this.numbers = numbers4;
  }
  /** The types of the filled cells. */
  get types() {
    const met = new Set(this.tags.subarray(0, this.length));
    return new Set(kinds.filter((_, i) => met.has(i + 1)));
  }
  /** The type of text as it reads, for records, which have no types of their own for dates. */
  detected(detect) {
    let type = "nothing";
    for (const text3 of new Set(this.texts)) if (text3 !== void 0) type = widen(type, detect(text3));
    return type === "nothing" ? "text" : type;
  }
  cellAt(row, tag2) {
    if (tag2 === 1 || tag2 === listKind) return this.texts[row];
    if (tag2 === 4) return this.numbers[row] === 1;
    return this.numbers[row];
  }
  /** Each cell by its own type as one type: text is read, all else converted; what cannot be is unreadable. */
  column(to) {
    const writer = columnWriter(to.type, this.length);
    const read2 = textReader(to);
    const convert2 = kinds.map(
      (from) => from === "text" && to.type !== "text" ? (cell) => read2(cell) : convertCell(from, to, read2)
    );
    const bad = new IntList();
    const texts = [];
    for (let row = 0; row < this.length; row++) {
      const tag2 = this.tags[row];
      if (tag2 === 0) continue;
      const cell = tag2 === errorKind ? null : convert2[tag2 - 1](this.cellAt(row, tag2));
      if (cell === null) {
        bad.push(row);
        if (texts.length < keptTexts) texts.push(this.texts[row] ?? String(this.numbers[row]));
      } else writer.set(row, cell);
    }
    return { column: writer.done(), unreadable: bad.done(), texts };
  }
};
var nameOf = (cell) => {
  if (cell === null) return "";
  if (typeof cell === "object") {
    if ("error" in cell) return cell.error;
    if ("list" in cell) return cell.list;
    return textOfCell(cell.type, cell.value);
  }
  const typeOfCell = () => {
    if (typeof cell === "number") {
      if (Number.isInteger(cell)) return "integer";
      return "decimal";
    }
    return "text";
  };
  return textOfCell(typeOfCell(), cell);
};
var widthOf = (row) => {
  let width = row.length;
  while (width > 0 && (row[width - 1] === null || row[width - 1] === "" || row[width - 1] === void 0)) width--;
  return width;
};
var CellTableBuilder = class {
  read;
  detects;
  gate;
  names = new ColumnNames();
  builders = [];
  blanks = 0;
  blankAt = [];
  rows = 0;
  filled = 0;
  padded = 0;
  constructor(read2, detects = false) {
    this.read = read2;
    this.detects = detects;
    this.gate = new RowFilter(read2);
  }
  get rowCount() {
    return this.rows;
  }
  /** The next row of the sheet; blank ones count, but for those below the last that is not. */
  add(row) {
    if (widthOf(row) === 0) {
      this.blanks++;
      return;
    }
    for (; this.blanks > 0; this.blanks--) this.take(this.gate.pass([[]]));
    this.take(this.gate.pass([row]));
  }
  take({ names: names3, body }) {
    if (names3)
      for (const name2 of joinedNames(names3.map((row) => row.slice(0, widthOf(row)).map(nameOf)))) this.names.add(name2);
    for (const row of body) {
      const width = widthOf(row);
      if (width === 0) {
        this.blankAt.push(this.rows + this.blankAt.length);
        continue;
      }
      while (this.names.all.length < width) this.names.add("");
      for (let c = 0; c < width; c++) this.put(c, row[c] ?? null);
      this.rows++;
    }
  }
  /** A column has no buffer until it has a value, however many blank cells stand in it. */
  put(c, cell) {
    if (cell === null || cell === "") return;
    this.filled++;
    this.builderAt(c).add(cell);
  }
  /** A column's builder, with the rows before it empty. */
  builderAt(c) {
    const builder = this.builders[c] ??= new CellBuilder();
    this.padded += this.rows - builder.length;
    if (this.padded > mostPadded && this.padded > this.filled * paddedAFilled)
      throw new TooLarge(
        `Nearly all of its ${figure(this.names.all.length)} columns and ${figure(this.rows)} rows are empty, far more cells than it holds values. Delete the empty rows and columns around the table.`
      );
    while (builder.length < this.rows) builder.add(null);
    return builder;
  }
  typeOf(name2, builder) {
    const { types, locale = plainLocale } = this.read;
    if (types === "text") return { type: "text" };
    const given = typeof types === "object" ? ownValue(types, name2) : void 0;
    if (given) return { ...given, locale };
    const met = typeTogether(builder.types);
    return {
      type: met === "text" && this.detects && builder.types.size === 1 ? builder.detected(detectText(locale)) : met,
      locale
    };
  }
  /** Blank rows at the end are counted only where they are records: below a sheet's last filled row there is nothing. */
  done(records = false) {
    if (records) for (; this.blanks > 0; this.blanks--) this.blankAt.push(this.rows + this.blankAt.length);
    const blankRows = this.blankAt.length;
    const unreadable = [];
    const blank2 = /* @__PURE__ */ new Set();
    const blankColumns = /* @__PURE__ */ new Map();
    const blankOf = (type) => {
      const column = blankColumns.get(type) ?? emptyColumn(type, this.rows);
      blankColumns.set(type, column);
      return column;
    };
    const columns = this.names.all.map((name2, c) => {
      const builder = this.builders[c] && this.builderAt(c);
      const to = this.typeOf(name2, builder ?? new CellBuilder());
      if (!builder || builder.types.size === 0) blank2.add(name2);
      if (!builder || this.rows === 0) return blankOf(to.type);
      const { column, unreadable: rows2, texts } = builder.column(to);
      if (rows2.length > 0) unreadable.push({ column: name2, rows: rows2, texts });
      return column;
    });
    return {
      table: Table.of(this.names.all, columns, this.rows),
      notes: blankRows > 0 ? { blankRows } : {},
      unreadable,
      blank: blank2,
      blankAt: this.blankAt
    };
  }
};

// core/src/reading/read-options.ts
import { z as z2 } from "zod";

// core/src/reading/name-schema.ts
import { z } from "zod";
var name = z.string().min(1);

// core/src/reading/read-options.ts
var localeSchema = z2.strictObject({ decimal: z2.string().length(1), group: z2.string().max(1) });
var formats = ["csv", "xlsx", "ods", "json", "parquet"];
var formatInfo = {
  csv: { words: "a text file", short: "text file" },
  xlsx: { words: "an XLSX workbook", short: "workbook" },
  ods: { words: "an ODS workbook", short: "workbook" },
  json: { words: "JSON", short: "JSON records" },
  parquet: { words: "Parquet", short: "Parquet" }
};
var readSchema = z2.strictObject({
  format: z2.enum(formats).optional(),
  path: z2.string().min(1).optional(),
  sheets: z2.union([
    z2.array(name).min(1),
    z2.strictObject({ like: z2.string().min(1), unlike: z2.string().min(1).optional() }),
    z2.literal("first")
  ]).optional(),
  range: z2.string().regex(rangePattern, "a range is written like B3:K90").optional(),
  encoding: z2.string().min(1).optional(),
  delimiter: z2.string().length(1).optional(),
  quote: z2.string().length(1).optional(),
  header: z2.union([z2.number().int().min(1), z2.array(z2.number().int().min(1)).min(1), z2.literal("none")]).optional(),
  skip: z2.number().int().min(0).optional(),
  footer: z2.number().int().min(0).optional(),
  types: z2.union([
    z2.enum(["detect", "text"]),
    z2.record(name, z2.strictObject({ type: z2.enum(columnTypes), formats: z2.array(z2.string().min(1)).optional() }))
  ]).optional(),
  locale: localeSchema.optional(),
  origin: z2.strictObject({ file: name.optional(), sheet: name.optional() }).optional()
}).meta({ id: "Read" });
var formatOf = (read2, files) => {
  if (read2.format) return read2.format;
  if (read2.path !== void 0) return "json";
  const ending = /\.([a-z]+)$/i.exec(files ?? "")?.[1]?.toLowerCase();
  return ending === "xlsm" ? "xlsx" : formats.find((format) => format === ending) ?? "csv";
};
var isWorkbook = (format) => format === "xlsx" || format === "ods";

// core/src/codegen/tag.ts
var partText = (part2) => {
  if (typeof part2 === "string") return part2;
  if ("helper" in part2) return part2.helper;
  if ("variable" in part2) return part2.quoted ? `:'${part2.variable}'` : `:${part2.variable}`;
  return `\\${part2.command}${part2.words.map((word2) => ` ${word2.text}`).join("")}`;
};
var helpersOf = (part2) => {
  if (typeof part2 === "string" || "variable" in part2) return [];
  return "helper" in part2 ? [part2.helper] : part2.words.flatMap((word2) => word2.helpers);
};
var Code = class {
  parts;
  constructor(...parts2) {
    this.parts = parts2;
  }
  get text() {
    return this.parts.map(partText).join("");
  }
  /** Names of helpers that the code refers to, repeats included. */
  get helpers() {
    return this.parts.flatMap(helpersOf);
  }
  toString() {
    return this.text;
  }
};
var tag = (literal3, list3) => (strings, ...parts2) => {
  const write2 = (part2) => {
    if (part2 instanceof Code) return part2;
    if (Array.isArray(part2))
      return list3(part2.map(write2), part2);
    return new Code(literal3(part2));
  };
  return new Code(
    ...strings.flatMap((string, i) => [string, ...i < parts2.length ? write2(parts2[i]).parts : []])
  );
};
var pyHelper = (helper) => new Code({ helper });
var sparkHelper = (helper) => new Code({ helper });
var sqlTables = /* @__PURE__ */ new Set(["sheet_files", "sheet_lines", "sheet_text"]);
var sqlHelper = (helper) => sqlTables.has(helper) ? new Code({ helper }) : new Code("pg_temp.", { helper });
var code = (text3) => new Code(text3);
var joined = (items2, between3) => new Code(...items2.flatMap(({ parts: parts2 }, i) => i === 0 ? parts2 : [between3, ...parts2]));
var lines = (...parts2) => joined(
  parts2.filter((part2) => part2 !== void 0),
  "\n"
);
var sqlText = (text3) => `'${text3.replaceAll("'", "''")}'`;
var sql = tag(
  (part2) => {
    if (part2 === null) return "null";
    if (typeof part2 === "string") return sqlText(part2);
    return String(part2);
  },
  (items2) => joined(items2, ", ")
);
var psqlWord = (text3) => new Code(`'${text3.replaceAll("\\", "\\\\").replaceAll("'", "''").replaceAll("\n", "\\n").replaceAll("\r", "\\r")}'`);
var psql = (command, ...words3) => new Code({ command, words: words3.map((word2) => typeof word2 === "string" ? psqlWord(word2) : word2) });
var pythonText = (text3) => JSON.stringify(text3).replace(
  /[\u007f-\u00a0\u00ad\u2000-\u200f\u2028-\u202f\u205f-\u206f\u3000\ufeff\ud800-\udfff]/g,
  (sign2) => `\\u${sign2.charCodeAt(0).toString(16).padStart(4, "0")}`
);
var pythonString = (text3) => Array.from(text3, (sign2) => {
  const point = sign2.codePointAt(0);
  if (point > 65535) {
    if (/\p{L}|\p{S}/u.test(sign2)) return sign2;
    return `\\U${point.toString(16).padStart(8, "0")}`;
  }
  return pythonText(sign2).slice(1, -1);
}).join("");
var py = tag(
  (part2) => {
    if (part2 === null) return "None";
    if (typeof part2 === "boolean") return part2 ? "True" : "False";
    if (typeof part2 === "string") return `"${pythonString(part2)}"`;
    return String(part2);
  },
  (items2, parts2) => parts2.some((part2) => part2 instanceof Code) ? joined(items2, ", ") : new Code("[", ...joined(items2, ", ").parts, "]")
);

// core/src/codegen/patterns.ts
var compiled2 = (patterns2) => patterns2.map(compileDatePattern).filter((pattern2) => !("problem" in pattern2));
var groupNames = (pattern2, year2) => [...pattern2.fields, ...year2 === void 0 || hasYear(pattern2) ? [] : [`year=${year2}`]].join(" ");
var sqlPatterns = (patterns2, year2) => patterns2.length === 0 ? code("'{}'::text[]") : sql`array[${joined(
  compiled2(patterns2).map((one2) => sql`[${one2.source}, ${groupNames(one2, year2)}]`),
  ", "
)}]`;
var pythonPatterns = (patterns2, year2) => py`[${joined(
  compiled2(patterns2).map((one2) => py`(${one2.source}, ${groupNames(one2, year2)})`),
  ", "
)}]`;

// core/src/formula/function-kind.ts
var failed = /* @__PURE__ */ Symbol("failed");

// core/src/formula/functions/define.ts
var args = (text3) => text3.split(" ").filter(Boolean).map((word2) => {
  const [, name2 = "", need = "", mark = ""] = /^(\w+):(\w+)([?+*]?)$/.exec(word2) ?? [];
  return {
    name: name2,
    need,
    ...mark === "?" || mark === "*" ? { optional: true } : {},
    ...mark === "+" || mark === "*" ? { rest: true } : {}
  };
});
var define = (given) => ({
  ...given,
  scripts: {
    sql: (parts2) => sql`${sqlHelper(`fx_${given.name.toLowerCase()}`)}(${parts2})`,
    python: (parts2) => py`${pyHelper(`fx_${given.name.toLowerCase()}`)}(${parts2})`,
    ...given.scripts
  },
  args: typeof given.args === "string" ? args(given.args) : given.args
});
var signs = (cell) => Array.from(cell);
var whole2 = (cell, otherwise) => cell === void 0 ? otherwise : Math.trunc(cell);
var unitOf = (units3) => (value) => units3.includes(value) ? void 0 : `The unit is one of ${units3.map((unit) => `"${unit}"`).join(", ")}.`;

// core/src/formula/functions/date.ts
var days = (cell, type) => type === "datetime" ? dayOf(cell) : cell;
var inRange = (day) => day >= firstDay && day <= lastDay ? day : failed;
var trunc = (cell) => Math.trunc(cell ?? 0);
var addMonths = (day, months3) => {
  const { year: year2, month, day: dayOfMonth } = civilFromDays(day);
  const index = year2 * 12 + month - 1 + months3;
  const y = Math.floor(index / 12);
  const m = index % 12 + 1;
  const length = daysInMonth(y, m);
  const first2 = daysFromCivil(y, m, 1);
  return { first: first2, clipped: first2 + Math.min(dayOfMonth, length) - 1, last: first2 + length - 1 };
};
var part = (name2, about, read2, examples) => define({
  name: name2,
  group: "date and time",
  about,
  args: "date:moment",
  result: name2.endsWith("NAME") ? "text" : "integer",
  call: ([d], [type]) => read2(days(d, type)),
  examples
});
var clockPart = (name2, unit, size, examples) => define({
  name: name2,
  group: "date and time",
  about: `The ${name2.toLowerCase()} of a time or a date with time.`,
  args: "time:clock",
  result: "integer",
  call: ([t], [type]) => Math.floor((type === "datetime" ? timeOf(t) : t) / unit) % size,
  scripts: {
    sql: ([t = code("")]) => sql`floor(extract(${code(name2.toLowerCase())} from ${t}))::bigint`
  },
  examples
});
var monthNames2 = monthNames.map(capital);
var dayNames = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
var weekday = (day) => ((day + 3) % 7 + 7) % 7;
var units = ["year", "quarter", "month", "week", "day", "hour"];
var patternProblem = (value) => {
  const compiled4 = compileDatePattern(String(value));
  return "problem" in compiled4 ? `${capital(compiled4.problem)}.` : void 0;
};
var kindProblem = (value) => [1, 2, 3, 11, 12, 13, 14, 15, 16, 17].includes(value) ? void 0 : "The kind is 1 (Sunday is 1), 2 (Monday is 1), 3 (Monday is 0) or 11 to 17.";
var firstDayOf = (day, unit) => {
  if (unit === "day") return day;
  if (unit === "week") return day - weekday(day);
  const { year: year2, month } = civilFromDays(day);
  if (unit === "year") return daysFromCivil(year2, 1, 1);
  return daysFromCivil(year2, unit === "quarter" ? month - (month - 1) % 3 : month, 1);
};
var truncate = (ms, unit) => unit === "hour" ? Math.floor(ms / 36e5) * 36e5 : firstDayOf(dayOf(ms), unit) * dayMs;
var readPattern = /* @__PURE__ */ new Map();
var readDate = (text3, pattern2) => {
  const key = pattern2 ?? "";
  let read2 = readPattern.get(key);
  if (!read2)
    readPattern.set(key, read2 = textReader({ type: "date", formats: pattern2 === void 0 ? [] : [pattern2] }));
  return read2(text3) ?? failed;
};
var date = [
  define({
    name: "DATE",
    group: "date and time",
    about: "The date of a year, month and day; a month 13 or a day 31 too many rolls over.",
    args: "year:number month:number day:number",
    result: "date",
    call: ([y, m, d]) => {
      const index = trunc(y) * 12 + trunc(m) - 1;
      const year2 = Math.floor(index / 12);
      return year2 < -9999 || year2 > 99999 ? failed : inRange(daysFromCivil(year2, index - year2 * 12 + 1, 1) + trunc(d) - 1);
    },
    examples: [
      ["DATE(2031; 2; 30)", "2031-03-02"],
      ["DATE(2031; 13; 1)", "2032-01-01"],
      ["DATE(2031; 0; 15)", "2030-12-15"],
      ["DATE(2031; 5; 0)", "2031-04-30"],
      ["DATE(2; 3; -2000000)", ""],
      ["DATE(12000; 1; -1000000)", "9262-02-02"],
      ["DATE(12000; 1; 1)", ""]
    ]
  }),
  part("YEAR", "The year of a date.", (day) => civilFromDays(day).year, [["YEAR(DATE(2031; 5; 2))", "2031"]]),
  part("MONTH", "The month of a date, 1 to 12.", (day) => civilFromDays(day).month, [
    ["MONTH(DATE(2031; 5; 2))", "5"],
    ["MONTH(EMPTY)", ""]
  ]),
  part("DAY", "The day of the month, 1 to 31.", (day) => civilFromDays(day).day, [["DAY(DATE(2031; 5; 2))", "2"]]),
  part("QUARTER", "The quarter of the year, 1 to 4.", (day) => Math.ceil(civilFromDays(day).month / 3), [
    ["QUARTER(DATE(2031; 5; 2))", "2"],
    ["QUARTER(DATE(2031; 12; 31))", "4"]
  ]),
  part("MONTHNAME", "The English name of the month.", (day) => monthNames2[civilFromDays(day).month - 1], [
    ["MONTHNAME(DATE(2031; 5; 2))", "May"]
  ]),
  part("DAYNAME", "The English name of the day of the week.", (day) => dayNames[weekday(day)], [
    ["DAYNAME(DATE(2031; 5; 2))", "Friday"]
  ]),
  clockPart("HOUR", 36e5, 24, [
    ["HOUR(TIME(14; 5; 9))", "14"],
    ["HOUR(DATETIME(DATE(2031; 5; 2); TIME(0; 0; 30)))", "0"],
    ["HOUR(EMPTY)", ""]
  ]),
  clockPart("MINUTE", 6e4, 60, [
    ["MINUTE(TIME(14; 5; 9))", "5"],
    ["MINUTE(DATETIME(DATE(2031; 5; 2); TIME(0; 0; 30)))", "0"],
    ["MINUTE(EMPTY)", ""]
  ]),
  clockPart("SECOND", 1e3, 60, [
    ["SECOND(TIME(14; 5; 9))", "9"],
    ["SECOND(DATETIME(DATE(2031; 5; 2); TIME(0; 0; 30)))", "30"],
    ["SECOND(EMPTY)", ""]
  ]),
  define({
    name: "WEEKDAY",
    group: "date and time",
    about: "The day of the week as a number; kind 1 (Sunday is 1), 2 (Monday is 1), 3 (Monday is 0), 11 to 17.",
    args: [...args("date:moment"), { name: "kind", need: "number", optional: true, constant: kindProblem }],
    result: "integer",
    call: ([d, kind = 1], [type]) => {
      const w = weekday(days(d, type));
      const k = kind;
      if (k === 3) return w;
      const first2 = { 1: 6, 2: 0 }[k] ?? k - 11;
      return (w - first2 + 7) % 7 + 1;
    },
    examples: [
      ["WEEKDAY(DATE(2031; 5; 2))", "6"],
      ["WEEKDAY(DATE(2031; 5; 2); 2)", "5"],
      ["WEEKDAY(DATE(2031; 5; 2); 3)", "4"],
      ["WEEKDAY(DATE(2031; 5; 2); 12)", "4"]
    ]
  }),
  ...["EDATE", "EOMONTH"].map(
    (name2) => define({
      name: name2,
      group: "date and time",
      about: name2 === "EDATE" ? "The date so many months later, the day cut to the month\u2019s last." : "The last day of the month so many months later.",
      args: "date:moment months:number",
      result: "date",
      call: ([d, m], [type]) => {
        if (Math.abs(trunc(m)) > 12e4) return failed;
        const moved2 = addMonths(days(d, type), trunc(m));
        return inRange(name2 === "EDATE" ? moved2.clipped : moved2.last);
      },
      examples: name2 === "EDATE" ? [
        ["EDATE(DATE(2031; 1; 31); 1)", "2031-02-28"],
        ["EDATE(DATE(2031; 5; 2); -5)", "2030-12-02"],
        ["EDATE(DATE(9999; 12; 1); 1)", ""]
      ] : [
        ["EOMONTH(DATE(2032; 1; 15); 1)", "2032-02-29"],
        ["EOMONTH(DATE(2031; 5; 2); 0)", "2031-05-31"]
      ]
    })
  ),
  define({
    name: "DAYS",
    group: "date and time",
    about: "Whole days from the start to the end.",
    args: "end:moment start:moment",
    result: "integer",
    call: ([end, start], [a, b]) => days(end, a) - days(start, b),
    examples: [
      ["DAYS(DATE(2031; 5; 12); DATE(2031; 5; 2))", "10"],
      ["DAYS(DATE(2031; 5; 2); DATE(2031; 5; 12))", "-10"]
    ]
  }),
  define({
    name: "DATETRUNC",
    group: "date and time",
    about: "The start of the year, quarter, month, week (Monday), day or hour that a date is in.",
    args: [...args("date:moment"), { name: "unit", need: "text", constant: unitOf(units) }],
    result: ([type]) => type === "datetime" ? "datetime" : "date",
    call: ([d, unit], [type]) => {
      const ms = truncate(type === "datetime" ? d : d * dayMs, unit);
      if (dayOf(ms) < firstDay) return failed;
      if (type === "datetime") return ms;
      return dayOf(ms);
    },
    scripts: {
      pandas: ([d = code("")], [type], [, unit]) => {
        if (type !== "date" || unit !== "month" && unit !== "year") return void 0;
        const start = code(unit === "month" ? "day=1" : "month=1, day=1");
        return py`${d}.map(lambda date: date.replace(${start}), na_action="ignore")`;
      }
    },
    examples: [
      ['DATETRUNC(DATE(2031; 5; 2); "month")', "2031-05-01"],
      ['DATETRUNC(DATE(2031; 5; 2); "week")', "2031-04-28"],
      ['DATETRUNC(DATE(2031; 5; 2); "quarter")', "2031-04-01"],
      ['DATETRUNC(DATE(2031; 5; 2); "year")', "2031-01-01"]
    ]
  }),
  define({
    name: "DATEVALUE",
    group: "date and time",
    about: 'The date that a text reads as, by a pattern such as "dd/MM/yyyy"; ISO without one.',
    args: [...args("text:text"), { name: "pattern", need: "text", optional: true, constant: patternProblem }],
    result: "date",
    call: ([t, pattern2]) => readDate(t, pattern2),
    scripts: {
      sql: ([t = code("")], _types, [, pattern2]) => sql`${sqlHelper("read_date")}(${t}, ${sqlPatterns(pattern2 === void 0 ? [] : [String(pattern2)])})`,
      python: ([t = code("")], _types, [, pattern2]) => py`${pyHelper("fx_datevalue")}(${t}, ${pythonPatterns(pattern2 === void 0 ? [] : [String(pattern2)])})`
    },
    examples: [
      ['DATEVALUE("02/05/2031"; "dd/MM/yyyy")', "2031-05-02"],
      ['DATEVALUE("2031-05-02")', "2031-05-02"],
      ['DATEVALUE("31/02/2031"; "dd/MM/yyyy")', ""],
      ['DATEVALUE("2 May 31"; "d MMM yy")', "2031-05-02"]
    ]
  }),
  define({
    name: "TODAY",
    group: "date and time",
    about: "The day of the run.",
    args: "",
    result: "date",
    call: (_cells, _types, { now }) => dayOf(now),
    scripts: {
      sql: () => sql`${sqlHelper("run_day")}()`,
      python: () => code("now.date()")
    },
    examples: [["TODAY() - TODAY()", "0"]]
  }),
  define({
    name: "NOW",
    group: "date and time",
    about: "The moment the run began.",
    args: "",
    result: "datetime",
    call: (_cells, _types, { now }) => now,
    scripts: {
      sql: () => sql`${sqlHelper("run_moment")}()`,
      python: () => code("now")
    },
    examples: [["NOW() - NOW()", "0"]]
  })
];

// core/src/formula/functions/date-more.ts
var days2 = (cell, type) => type === "datetime" ? dayOf(cell) : cell;
var whole3 = (cell) => Math.trunc(cell ?? 0);
var timePattern = (value) => {
  const compiled4 = compileDatePattern(String(value));
  return "problem" in compiled4 ? `${capital(compiled4.problem)}.` : void 0;
};
var isoWeek = (day) => {
  const thursday = day - weekday(day) + 3;
  return Math.floor((thursday - daysFromCivil(civilFromDays(thursday).year, 1, 1)) / 7) + 1;
};
var weekModes = [1, 2, 11, 12, 13, 14, 15, 16, 17, 21];
var weekOfYear = (day, mode) => {
  if (mode === 21) return isoWeek(day);
  const begins2 = { 1: 6, 2: 0 }[mode] ?? mode - 11;
  const first2 = daysFromCivil(civilFromDays(day).year, 1, 1);
  return Math.floor((day - first2 + (weekday(first2) - begins2 + 7) % 7) / 7) + 1;
};
var workdaysTo = (day) => Math.floor((day + 3) / 7) * 5 + Math.min(weekday(day) + 1, 5);
var dayOfWorkdays = (count3) => Math.floor((count3 - 1) / 5) * 7 + ((count3 - 1) % 5 + 5) % 5 - 3;
var units2 = ["y", "m", "d", "ym", "yd", "md"];
var difference = (start, end, unit) => {
  if (start > end) return failed;
  const a = civilFromDays(start);
  const b = civilFromDays(end);
  const months3 = (b.year - a.year) * 12 + b.month - a.month - (b.day < a.day ? 1 : 0);
  const years = Math.floor(months3 / 12);
  return {
    y: years,
    m: months3,
    d: end - start,
    ym: months3 % 12,
    yd: end - addMonths(start, years * 12).clipped,
    md: end - addMonths(start, months3).clipped
  }[unit];
};
var dateMore = [
  define({
    name: "TIME",
    group: "date and time",
    about: "The time of day of an hour, minute and second; beyond a day it begins anew.",
    args: "hour:number minute:number second:number",
    result: "time",
    call: ([h, m, s]) => {
      const seconds = (whole3(h) * 60 + whole3(m)) * 60 + whole3(s);
      return seconds < 0 || seconds > 1e12 ? failed : seconds % 86400 * 1e3;
    },
    examples: [
      ["TIME(9; 30; 0)", "09:30:00"],
      ["TIME(25; 61; 1)", "02:01:01"],
      ["TIME(-1; 0; 0)", ""]
    ]
  }),
  define({
    name: "TIMEVALUE",
    group: "date and time",
    about: 'The time that a text reads as, by a pattern such as "HH.mm"; ISO without one.',
    args: [...args("text:text"), { name: "pattern", need: "text", optional: true, constant: timePattern }],
    result: "time",
    call: ([t, pattern2]) => textReader({ type: "time", formats: pattern2 === void 0 ? [] : [String(pattern2)] })(t) ?? failed,
    scripts: {
      sql: ([t = code("")], _types, [, pattern2]) => sql`${sqlHelper("read_time")}(${t}, ${sqlPatterns(pattern2 === void 0 ? [] : [String(pattern2)])})`,
      python: ([t = code("")], _types, [, pattern2]) => py`${pyHelper("fx_timevalue")}(${t}, ${pythonPatterns(pattern2 === void 0 ? [] : [String(pattern2)])})`
    },
    examples: [
      ['TIMEVALUE("09:30")', "09:30:00"],
      ['TIMEVALUE("9.05 pm"; "h.mm a")', "21:05:00"],
      ['TIMEVALUE("25:00")', ""]
    ]
  }),
  define({
    name: "DATETIME",
    group: "date and time",
    about: "A date and a time of day together.",
    args: "date:moment time:clock",
    result: "datetime",
    call: ([d, t], [a, b]) => days2(d, a) * dayMs + (b === "datetime" ? timeOf(t) : t),
    scripts: {
      sql: ([d = code(""), t = code("")]) => sql`(${d}::date + ${t}::time)`
    },
    examples: [
      ["DATETIME(DATE(2031; 5; 2); TIME(9; 30; 0))", "2031-05-02T09:30:00"],
      ["DATETIME(DATE(2031; 5; 2); EMPTY)", ""]
    ]
  }),
  define({
    name: "ISOWEEKNUM",
    group: "date and time",
    about: "The week of the year by ISO 8601.",
    args: "date:moment",
    result: "integer",
    call: ([d], [type]) => isoWeek(days2(d, type)),
    examples: [
      ["ISOWEEKNUM(DATE(2031; 1; 1))", "1"],
      ["ISOWEEKNUM(DATE(2033; 1; 1))", "53"],
      ["ISOWEEKNUM(DATE(2031; 5; 2))", "18"]
    ]
  }),
  define({
    name: "WEEKNUM",
    group: "date and time",
    about: "The week of the year, the first being that of 1 January; weeks begin on Monday, or by the mode: 1 on Sunday, 2 on Monday, 11 to 17 on Monday to Sunday; 21 counts by ISO 8601.",
    args: [
      ...args("date:moment"),
      {
        name: "mode",
        need: "number",
        optional: true,
        constant: (value) => weekModes.includes(value) ? void 0 : `The mode is one of ${weekModes.join(", ")}.`
      }
    ],
    result: "integer",
    call: ([d, mode = 11], [type]) => weekOfYear(days2(d, type), mode),
    examples: [
      ["WEEKNUM(DATE(2031; 1; 1))", "1"],
      ["WEEKNUM(DATE(2031; 1; 6))", "2"],
      ["WEEKNUM(DATE(2033; 1; 1))", "1"],
      ["WEEKNUM(DATE(2033; 1; 3))", "2"],
      ["WEEKNUM(DATE(2031; 1; 5); 1)", "2"],
      ["WEEKNUM(DATE(2031; 1; 5); 2)", "1"],
      ["WEEKNUM(DATE(2031; 1; 4); 15)", "2"],
      ["WEEKNUM(DATE(2031; 1; 4); 17)", "1"],
      ["WEEKNUM(DATE(2033; 1; 1); 21)", "53"]
    ]
  }),
  define({
    name: "NETWORKDAYS",
    group: "date and time",
    about: "Days from Monday to Friday between two dates, both counted; negative where the end comes first.",
    args: "start:moment end:moment",
    result: "integer",
    call: ([s, e], [a, b]) => {
      const [start, end] = [days2(s, a), days2(e, b)];
      return start <= end ? workdaysTo(end) - workdaysTo(start - 1) : 0 - (workdaysTo(start) - workdaysTo(end - 1));
    },
    examples: [
      ["NETWORKDAYS(DATE(2031; 5; 2); DATE(2031; 5; 12))", "7"],
      ["NETWORKDAYS(DATE(2031; 5; 3); DATE(2031; 5; 4))", "0"],
      ["NETWORKDAYS(DATE(2031; 5; 12); DATE(2031; 5; 2))", "-7"]
    ]
  }),
  define({
    name: "WORKDAY",
    group: "date and time",
    about: "The date so many days from Monday to Friday later, or earlier.",
    args: "start:moment n:number",
    result: "date",
    call: ([s, n], [type]) => {
      const start = days2(s, type);
      const count3 = whole3(n);
      return Math.abs(count3) > 3e6 ? failed : inRange(
        count3 === 0 ? start : dayOfWorkdays(count3 > 0 ? workdaysTo(start) + count3 : workdaysTo(start - 1) + count3 + 1)
      );
    },
    examples: [
      ["WORKDAY(DATE(2031; 5; 2); 1)", "2031-05-05"],
      ["WORKDAY(DATE(2031; 5; 3); -1)", "2031-05-02"],
      ["WORKDAY(DATE(2031; 5; 2); 10)", "2031-05-16"],
      ["WORKDAY(DATE(2031; 5; 3); 0)", "2031-05-03"]
    ]
  }),
  define({
    name: "DATEDIF",
    group: "date and time",
    about: 'Whole years ("y"), months ("m") or days ("d") between two dates; "ym", "yd" and "md" what is left of months or days.',
    args: [...args("start:moment end:moment"), { name: "unit", need: "text", constant: unitOf(units2) }],
    result: "integer",
    call: ([s, e, unit], [a, b]) => difference(days2(s, a), days2(e, b), unit),
    examples: [
      ['DATEDIF(DATE(2028; 2; 29); DATE(2031; 2; 28); "y")', "2"],
      ['DATEDIF(DATE(2030; 5; 31); DATE(2031; 5; 2); "m")', "11"],
      ['DATEDIF(DATE(2031; 5; 2); DATE(2031; 5; 12); "d")', "10"],
      ['DATEDIF(DATE(2030; 1; 31); DATE(2031; 3; 1); "ym")', "1"],
      ['DATEDIF(DATE(2030; 1; 31); DATE(2031; 3; 1); "md")', "1"],
      ['DATEDIF(DATE(2030; 5; 2); DATE(2031; 5; 1); "yd")', "364"],
      ['DATEDIF(DATE(2031; 5; 2); DATE(2031; 5; 1); "d")', ""]
    ]
  })
];

// core/src/formula/functions/list.ts
var itemFor = (cell, type) => {
  if (cell === null || cell === void 0) return null;
  if (typeof cell === "boolean" || type === "integer") return cell;
  if (type === "decimal") return Number(formatDecimal(cell));
  return textOfCell(type === void 0 || type === "empty" ? "text" : type, cell);
};
var items = (cell) => itemsOf(cell);
var itemSql = (part2, type) => {
  if (type === "integer" || type === "decimal" || type === "boolean")
    return sql`coalesce(${sqlHelper("shown")}(${part2}), 'null')`;
  if (type === "empty") return sql`'null'${code("::text")}`;
  return sql`coalesce(to_json(${sqlHelper("shown")}(${part2}))::text, 'null')`;
};
var list = [
  define({
    name: "LIST",
    group: "list",
    about: "Its arguments as one list; an empty one is an empty item.",
    args: "value:any+",
    result: "list",
    gathers: true,
    seesEmpty: true,
    fails: "never",
    call: (cells, types) => listText(cells.map((cell, i) => itemFor(cell, types[i]))),
    scripts: {
      sql: (parts2, types) => sql`${sqlHelper("list_of")}(array[${joined(
        parts2.map((part2, i) => itemSql(part2, types[i])),
        ", "
      )}])`,
      python: (parts2) => py`${pyHelper("fx_list")}(${parts2})`
    },
    examples: [
      ["LIST(1; EMPTY; 2.5)", "[1,null,2.5]"],
      ['LIST("a"; "say ""so""")', '["a","say \\"so\\""]'],
      ["LIST(DATE(2031; 5; 2))", '["2031-05-02"]'],
      ["LIST(TRUE; FALSE)", "[true,false]"],
      ["LIST(9007199254740991; 1)", "[9007199254740991,1]"]
    ]
  }),
  define({
    name: "LISTJOIN",
    group: "list",
    about: "The items as one text with a separator between; empty items are passed over.",
    args: "list:list separator:text",
    result: "text",
    fails: "never",
    call: ([l, separator]) => items(l).flatMap((item) => item === null ? [] : [itemText(item)]).join(separator),
    examples: [
      ['LISTJOIN(LIST("a"; EMPTY; "b"); ", ")', "a, b"],
      ['LISTJOIN(LIST(1; 2.5); "")', "12.5"],
      ['LISTJOIN(LIST(9007199254740991; 1); " ")', "9007199254740991 1"],
      ['LISTJOIN(LIST(EMPTY); "-")', ""]
    ]
  }),
  define({
    name: "LISTCOUNT",
    group: "list",
    about: "How many items a list has, empty ones included.",
    args: "list:list",
    result: "integer",
    fails: "never",
    call: ([l]) => items(l).length,
    examples: [["LISTCOUNT(LIST(1; EMPTY; 2))", "3"]]
  }),
  define({
    name: "LISTITEM",
    group: "list",
    about: "The n-th item as text, from 1; negative from the end.",
    args: "list:list n:number",
    result: "text",
    fails: { sql: ([, n = code("")]) => sql`trunc(${n}) = 0`, python: () => code("lambda l, n: int(n) == 0") },
    call: ([l, n]) => {
      const all = items(l);
      const at = whole2(n, 0);
      const item = all[at > 0 ? at - 1 : all.length + at] ?? null;
      if (at === 0) return failed;
      if (item === null) return null;
      return itemText(item);
    },
    examples: [
      ['LISTITEM(LIST("a"; "b"); 2)', "b"],
      ["LISTITEM(LIST(1; 2.5); -1)", "2.5"],
      ['LISTITEM(LIST("a"); 3)', ""],
      ['LISTITEM(LIST("a"); 0)', ""]
    ]
  }),
  define({
    name: "LISTSORT",
    group: "list",
    about: "The items in order, empty ones last.",
    args: "list:list",
    result: "list",
    fails: "never",
    call: ([l]) => listText([...items(l)].sort(compareItems)),
    examples: [
      ["LISTSORT(LIST(10; EMPTY; 9.5; 2))", "[2,9.5,10,null]"],
      ['LISTSORT(LIST("b"; "A"; "a"; "B"))', '["A","a","B","b"]'],
      ["LISTSORT(LIST(TRUE; FALSE))", "[false,true]"]
    ]
  }),
  define({
    name: "LISTDISTINCT",
    group: "list",
    about: "Each item once, at its first place.",
    args: "list:list",
    result: "list",
    fails: "never",
    call: ([l]) => listText([...new Set(items(l))]),
    examples: [
      ['LISTDISTINCT(LIST("b"; "a"; "b"; EMPTY; EMPTY))', '["b","a",null]'],
      ["LISTDISTINCT(LIST(1; 1.0; 2))", "[1,2]"]
    ]
  }),
  define({
    name: "LISTCONTAINS",
    group: "list",
    about: "Whether a value is among the items.",
    args: "list:list value:any",
    result: "boolean",
    fails: "never",
    call: ([l, value], [, type]) => items(l).includes(itemFor(value, type)),
    scripts: {
      sql: ([l = code(""), value = code("")], [, type]) => sql`${sqlHelper("fx_listcontains")}(${l}, case when ${value} is not null then ${itemSql(value, type)} end)`
    },
    examples: [
      ['LISTCONTAINS(LIST("a"; "b"); "b")', "true"],
      ["LISTCONTAINS(LIST(1; 2); 3)", "false"],
      ["LISTCONTAINS(LIST(DATE(2031; 5; 2)); DATE(2031; 5; 2))", "true"],
      ["LISTCONTAINS(EMPTY; 1)", ""]
    ]
  })
];

// core/src/formula/functions/logic.ts
var logic = [
  define({
    name: "IF",
    group: "logic",
    total: true,
    about: "One value where the condition holds, another where it does not. An empty condition counts as false.",
    args: "condition:boolean then:any else:any?",
    result: "same",
    sameFrom: 1,
    seesEmpty: true,
    call: ([condition, yes = null, no2 = null]) => condition === true ? yes : no2,
    scripts: {
      sql: ([c = code(""), yes = code("null"), no2 = code("null")]) => sql`case when ${c} then ${yes} else ${no2} end`
    },
    examples: [
      ['IF(2 > 1; "more"; "less")', "more"],
      ["IF(EMPTY; 1; 2)", "2"],
      ["IF(FALSE; 1)", ""],
      ["IF(TRUE; DATE(2031; 5; 2); EMPTY)", "2031-05-02"]
    ]
  }),
  define({
    name: "AND",
    group: "logic",
    total: true,
    about: "Whether all hold. Empty, unless one is false.",
    args: "condition:boolean+",
    result: "boolean",
    seesEmpty: true,
    call: (cells) => {
      if (cells.includes(false)) return false;
      if (cells.includes(null)) return null;
      return true;
    },
    scripts: {
      sql: (parts2) => sql`(${joined(parts2, " and ")})`
    },
    examples: [
      ["AND(TRUE; 1 < 2)", "true"],
      ["AND(FALSE; EMPTY)", "false"],
      ["AND(TRUE; EMPTY)", ""]
    ]
  }),
  define({
    name: "OR",
    group: "logic",
    total: true,
    about: "Whether any holds. Empty, unless one is true.",
    args: "condition:boolean+",
    result: "boolean",
    seesEmpty: true,
    call: (cells) => {
      if (cells.includes(true)) return true;
      if (cells.includes(null)) return null;
      return false;
    },
    scripts: {
      sql: (parts2) => sql`(${joined(parts2, " or ")})`
    },
    examples: [
      ["OR(FALSE; 1 < 2)", "true"],
      ["OR(TRUE; EMPTY)", "true"],
      ["OR(FALSE; EMPTY)", ""]
    ]
  }),
  define({
    name: "NOT",
    group: "logic",
    total: true,
    about: "The opposite.",
    args: "condition:boolean",
    result: "boolean",
    call: ([condition]) => condition === false,
    scripts: {
      sql: ([c = code("")]) => sql`(not ${c})`
    },
    examples: [
      ["NOT(TRUE)", "false"],
      ["NOT(1 > 2)", "true"],
      ["NOT(EMPTY)", ""]
    ]
  }),
  define({
    name: "ISBLANK",
    group: "logic",
    total: true,
    about: "Whether the cell is empty.",
    args: "value:any",
    result: "boolean",
    seesEmpty: true,
    call: ([value = null]) => value === null,
    scripts: {
      sql: ([x = code("")]) => sql`(${x} is null)`
    },
    examples: [
      ["ISBLANK(EMPTY)", "true"],
      ['ISBLANK("")', "true"],
      ['ISBLANK(" ")', "false"],
      ["ISBLANK(0)", "false"]
    ]
  }),
  define({
    name: "COALESCE",
    group: "logic",
    total: true,
    about: "The first that is not empty.",
    args: "value:any+",
    result: "same",
    seesEmpty: true,
    call: (cells) => cells.find((cell) => cell !== null) ?? null,
    scripts: {
      sql: (parts2) => sql`coalesce(${parts2})`,
      python: (parts2) => py`${pyHelper("fx_coalesce")}(${parts2})`
    },
    examples: [
      ["COALESCE(EMPTY; 3; 4)", "3"],
      ['COALESCE(""; "x")', "x"],
      ["COALESCE(EMPTY)", ""]
    ]
  }),
  define({
    name: "IFERROR",
    group: "logic",
    about: "Another value where the first could not be computed; what is merely empty stays empty.",
    args: "x:any otherwise:any",
    result: "same",
    seesEmpty: true,
    call: ([x = null]) => x,
    scripts: {
      sql: ([x = code(""), otherwise = code(""), failing = code("")]) => sql`case when ${failing} then ${otherwise} else ${x} end`,
      python: ([x = code(""), otherwise = code(""), failing = code("")]) => py`${pyHelper("fx_iferror")}(${x}, ${otherwise}, ${failing})`
    },
    examples: [
      ["IFERROR(1 / 0; 9)", "9"],
      ['IFERROR(VALUE("dog") + 1; 0)', "0"],
      ["IFERROR(10 / 4; 0)", "2.5"],
      ["IFERROR(EMPTY / 2; 9)", ""],
      ['IFERROR(MID("abc"; 9; 2); "none")', ""],
      ['IFERROR(MID("abc"; 0; 2); "none")', "none"],
      ["IFERROR(COALESCE(1 / 0; 5); 9)", "5"],
      ["IFERROR(IF(TRUE; 1; 1 / 0); 9)", "1"],
      ["IFERROR(IF(FALSE; 1; 1 / 0); 9)", "9"],
      ["IFERROR(IFERROR(1 / 0; SQRT(-1)); 3)", "3"],
      ['IFERROR(LEFT("abc"; 0); "none")', ""],
      ["IFERROR(DATE(2031; 2; 30); EMPTY)", "2031-03-02"]
    ]
  })
];

// core/src/formula/functions/number.ts
var finite = (x) => {
  if (Number.isFinite(x)) {
    if (x === 0) return 0;
    return x;
  }
  return failed;
};
var numbers = (cells) => cells.filter((cell) => cell !== null);
var wholeIfAll = (types) => types.every((type) => type === "integer" || type === "empty") ? "integer" : "decimal";
var places = (cell) => Math.trunc(cell ?? 0);
var rounding = (name2, about, round, examples) => define({
  name: name2,
  group: "number",
  about,
  args: "x:number n:number?",
  result: "decimal",
  call: ([x, n]) => finite(round(x, places(n))),
  examples
});
var least = (name2) => define({
  name: name2,
  group: "number",
  about: `The ${name2 === "MIN" ? "least" : "greatest"} of its arguments in one row; empties are passed over.`,
  args: "x:number+",
  result: wholeIfAll,
  seesEmpty: true,
  call: (cells) => {
    const known3 = numbers(cells);
    if (known3.length === 0) return null;
    if (name2 === "MIN") return Math.min(...known3);
    return Math.max(...known3);
  },
  examples: name2 === "MIN" ? [
    ["MIN(3; EMPTY; 1.5)", "1.5"],
    ["MIN(EMPTY)", ""]
  ] : [
    ["MAX(3; EMPTY; 1.5)", "3"],
    ["MAX(EMPTY)", ""]
  ]
});
var readNumber = numberReader();
var number = [
  define({
    name: "ABS",
    group: "number",
    about: "The size without the sign.",
    args: "x:number",
    result: wholeIfAll,
    call: ([x]) => Math.abs(x),
    examples: [
      ["ABS(-2.5)", "2.5"],
      ["ABS(3)", "3"],
      ["ABS(EMPTY)", ""]
    ]
  }),
  rounding("ROUND", "Rounded to n places, half away from zero.", roundTo, [
    ["ROUND(2.675; 2)", "2.68"],
    ["ROUND(1.005; 2)", "1.01"],
    ["ROUND(-2.5)", "-3"],
    ["ROUND(1234; -2)", "1200"],
    ["ROUND(0.1 + 0.2; 1)", "0.3"],
    ["ROUND(2.675; 20)", "2.675"],
    ["ROUND(2.675; 1000000)", "2.675"],
    ["ROUND(2.675; -1000000)", "0"],
    ["ROUND(2; EMPTY)", ""]
  ]),
  rounding("ROUNDUP", "Rounded to n places, away from zero.", roundUp, [
    ["ROUNDUP(2.001; 2)", "2.01"],
    ["ROUNDUP(-2.1)", "-3"],
    ["ROUNDUP(2.3; 1)", "2.3"],
    ["ROUNDUP(2.3; 400)", "2.3"],
    ["ROUNDUP(2.3; -300)", "1e300"],
    ["ROUNDUP(2.3; -1000000)", ""],
    ["ROUNDUP(2; EMPTY)", ""]
  ]),
  rounding("ROUNDDOWN", "Rounded to n places, towards zero.", roundDown, [
    ["ROUNDDOWN(2.999; 2)", "2.99"],
    ["ROUNDDOWN(2.999; 1000000)", "2.999"],
    ["ROUNDDOWN(2.999; -1000000)", "0"],
    ["ROUNDDOWN(-2.9)", "-2"]
  ]),
  define({
    name: "INT",
    group: "number",
    about: "The next whole number below, or the number itself where it is whole.",
    args: "x:number",
    result: "integer",
    call: ([x]) => Math.abs(Math.floor(x)) <= maxInteger ? Math.floor(x) : failed,
    examples: [
      ["INT(2.9)", "2"],
      ["INT(-2.1)", "-3"],
      ["INT(1e300)", ""]
    ]
  }),
  define({
    name: "MOD",
    group: "number",
    about: "What is left after dividing; it has the sign of the divisor.",
    args: "x:number divisor:number",
    result: wholeIfAll,
    call: ([x, d]) => d === 0 ? failed : finite(modulo(x, d)),
    examples: [
      ["MOD(7; 3)", "1"],
      ["MOD(-7; 3)", "2"],
      ["MOD(7.5; 2)", "1.5"],
      ["MOD(1; 0)", ""],
      ["MOD(1e17; 3)", "1"],
      ["MOD(-1e17; 3)", "2"],
      ["MOD(7.5; -2)", "-0.5"],
      ["MOD(9007199254740991; -10)", "-9"],
      ["MOD(5.3; 0.1)", "0.0999999999999995"]
    ]
  }),
  define({
    name: "POWER",
    group: "number",
    about: "x to the power of y.",
    args: "x:number y:number",
    result: "decimal",
    call: ([x, y]) => finite(x ** y),
    scripts: {
      sql: (parts2) => sql`${sqlHelper("op_power")}(${parts2})`,
      python: (parts2) => py`${pyHelper("op_power")}(${parts2})`
    },
    examples: [
      ["POWER(2; 10)", "1024"],
      ["POWER(-8; 0.5)", ""]
    ]
  }),
  define({
    name: "SQRT",
    group: "number",
    about: "The square root.",
    args: "x:number",
    result: "decimal",
    call: ([x]) => finite(Math.sqrt(x)),
    examples: [
      ["SQRT(16)", "4"],
      ["SQRT(-1)", ""]
    ]
  }),
  least("MIN"),
  least("MAX"),
  define({
    name: "SUM",
    group: "number",
    about: "The sum of its arguments in one row; empties are passed over.",
    args: "x:number+",
    result: wholeIfAll,
    seesEmpty: true,
    call: (cells, types) => {
      const known3 = numbers(cells);
      if (known3.length === 0) return null;
      const total = compensatedSum(known3);
      return wholeIfAll(types) === "integer" && Math.abs(total) > maxInteger ? failed : finite(total);
    },
    examples: [
      ["SUM(1; 2; EMPTY)", "3"],
      ["SUM(1.5; 2)", "3.5"],
      ["SUM(0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1) = 1", "true"],
      ["SUM(EMPTY)", ""]
    ]
  }),
  define({
    name: "AVERAGE",
    group: "number",
    about: "The mean of its arguments in one row; empties are passed over.",
    args: "x:number+",
    result: "decimal",
    seesEmpty: true,
    call: (cells) => {
      const known3 = numbers(cells);
      return known3.length === 0 ? null : finite(compensatedSum(known3) / known3.length);
    },
    examples: [
      ["AVERAGE(1; 2; EMPTY)", "1.5"],
      ["AVERAGE(EMPTY)", ""],
      ["AVERAGE(0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1) = 0.1", "true"]
    ]
  }),
  define({
    name: "COUNT",
    group: "number",
    about: "How many of its arguments are filled.",
    args: "x:any+",
    result: "integer",
    seesEmpty: true,
    call: (cells) => cells.filter((cell) => cell !== null).length,
    scripts: {
      sql: (parts2) => sql`num_nonnulls(${parts2})::bigint`
    },
    examples: [
      ["COUNT(1; EMPTY; 3)", "2"],
      ["COUNT(EMPTY)", "0"]
    ]
  }),
  define({
    name: "VALUE",
    group: "number",
    about: "The number that a text reads as.",
    args: "text:text",
    result: "decimal",
    call: ([text3]) => readNumber(text3) ?? failed,
    examples: [
      ['VALUE("1,204.50")', "1204.5"],
      ['VALUE("\xA3 180.00")', "180"],
      ['VALUE("(12%)")', "-0.12"],
      ['VALUE("dog")', ""],
      ['VALUE("1,20")', ""]
    ]
  })
];

// core/src/formula/functions/number-more.ts
var finite2 = (x) => {
  if (Number.isFinite(x)) {
    if (x === 0) return 0;
    return x;
  }
  return failed;
};
var steps = (x, step) => Number((x / step).toPrecision(15));
var one = (name2, about, compute3, examples) => define({
  name: name2,
  group: "number",
  about,
  args: "x:number",
  result: "decimal",
  call: ([x]) => finite2(compute3(x)),
  examples
});
var toStep = (name2, about, round, optional, examples) => define({
  name: name2,
  group: "number",
  about,
  args: optional ? "x:number step:number?" : "x:number step:number",
  result: "decimal",
  call: ([x, step = 1]) => {
    if (step === 0) {
      if (x === 0) return 0;
      return failed;
    }
    return finite2(
      Number((round(steps(x, Math.abs(step))) * Math.abs(step)).toPrecision(15))
    );
  },
  examples
});
var numberMore = [
  define({
    name: "SIGN",
    group: "number",
    about: "1, 0 or -1, as the number is above, at or below zero.",
    args: "x:number",
    result: "integer",
    call: ([x]) => Math.sign(x) + 0,
    examples: [
      ["SIGN(-2.5)", "-1"],
      ["SIGN(0)", "0"],
      ["SIGN(7)", "1"]
    ]
  }),
  define({
    name: "TRUNC",
    group: "number",
    about: "Cut to n places, towards zero.",
    args: "x:number n:number?",
    result: "decimal",
    call: ([x, n = 0]) => finite2(roundDown(x, Math.trunc(n))),
    examples: [
      ["TRUNC(-2.99)", "-2"],
      ["TRUNC(2.999; 2)", "2.99"],
      ["TRUNC(1299; -2)", "1200"],
      ["TRUNC(2.999; 1000000)", "2.999"]
    ]
  }),
  toStep("CEILING", "Up to a multiple of the step, 1 where none is given.", Math.ceil, true, [
    ["CEILING(7.2)", "8"],
    ["CEILING(7; 5)", "10"],
    ["CEILING(-7; 5)", "-5"],
    ["CEILING(0.3; 0.1)", "0.3"],
    ["CEILING(5; 0)", ""]
  ]),
  toStep("FLOOR", "Down to a multiple of the step, 1 where none is given.", Math.floor, true, [
    ["FLOOR(7.8)", "7"],
    ["FLOOR(7; -5)", "5"],
    ["FLOOR(-7; 5)", "-10"],
    ["FLOOR(0.3; 0.1)", "0.3"]
  ]),
  toStep("MROUND", "To the nearest multiple of the step, half away from zero.", (n) => roundTo(n, 0), false, [
    ["MROUND(7; 5)", "5"],
    ["MROUND(7.5; 5)", "10"],
    ["MROUND(-7.5; 5)", "-10"],
    ["MROUND(1.3; 0.2)", "1.4"]
  ]),
  define({
    name: "QUOTIENT",
    group: "number",
    about: "How often a number goes into another, the rest left out.",
    args: "x:number divisor:number",
    result: "integer",
    call: ([x, d]) => d === 0 || Math.abs(x / d) > maxInteger ? failed : Math.trunc(x / d) + 0,
    examples: [
      ["QUOTIENT(7; 2)", "3"],
      ["QUOTIENT(-7; 2)", "-3"],
      ["QUOTIENT(1; 0)", ""]
    ]
  }),
  one("EXP", "e to the power of x.", Math.exp, [
    ["EXP(0)", "1"],
    ["ROUND(EXP(1); 6)", "2.718282"],
    ["EXP(1000)", ""]
  ]),
  one("LN", "The natural logarithm.", Math.log, [
    ["LN(1)", "0"],
    ["LN(0)", ""],
    ["ROUND(LN(10); 6)", "2.302585"]
  ]),
  one("LOG10", "The logarithm to base 10.", Math.log10, [
    ["LOG10(1000)", "3"],
    ["LOG10(-1)", ""]
  ]),
  define({
    name: "LOG",
    group: "number",
    about: "The logarithm to a base, 10 where none is given.",
    args: "x:number base:number?",
    result: "decimal",
    call: ([x, base = 10]) => x > 0 && base > 0 && base !== 1 ? finite2(base === 10 ? Math.log10(x) : Math.log(x) / Math.log(base)) : failed,
    examples: [
      ["LOG(100)", "2"],
      ["ROUND(LOG(8; 2); 9)", "3"],
      ["LOG(8; 1)", ""],
      ["LOG(0)", ""]
    ]
  }),
  define({
    name: "PI",
    group: "number",
    about: "The number pi.",
    args: "",
    result: "decimal",
    call: () => Math.PI,
    scripts: {
      sql: () => sql`pi()`,
      python: () => py`${Math.PI}`
    },
    examples: [["ROUND(PI(); 8)", "3.14159265"]]
  })
];

// core/src/formula/functions/pairs.ts
var choice = (condition, then, otherwise, { from, to }) => ({
  kind: "call",
  name: "IF",
  args: otherwise ? [condition, then, otherwise] : [condition, then],
  from,
  to
});
var nested = (pairs, last, at) => pairs.reduceRight((rest, [condition, value]) => choice(condition, value, rest, at), last);
var inPairs = (nodes) => Array.from({ length: Math.floor(nodes.length / 2) }, (_, i) => [
  nodes[i * 2],
  nodes[i * 2 + 1]
]);
var shorthands = [
  {
    name: "IFS",
    group: "logic",
    about: "The value of the first condition that holds; empty where none does.",
    args: [{ name: "condition" }, { name: "value" }, { name: "\u2026" }],
    needs: "pairs of a condition and a value",
    expand: (nodes, at) => nodes.length < 2 || nodes.length % 2 === 1 ? void 0 : nested(inPairs(nodes), void 0, at),
    examples: [
      ['IFS(1 > 2; "a"; 2 > 1; "b")', "b"],
      ["IFS(EMPTY; 1; TRUE; 2.5)", "2.5"],
      ["IFS(FALSE; 1)", ""]
    ]
  },
  {
    name: "SWITCH",
    group: "logic",
    about: "The result beside the first value that x is; else the default, or empty.",
    args: [{ name: "x" }, { name: "value" }, { name: "result" }, { name: "\u2026" }, { name: "default" }],
    needs: "a value, pairs of a value and a result, and a default if wanted",
    expand: ([x, ...rest], at) => {
      if (!x || rest.length < 2) return void 0;
      const last = rest.length % 2 === 1 ? rest.at(-1) : void 0;
      return nested(
        inPairs(rest).map(([value, result]) => [
          { kind: "binary", op: "=", left: x, right: value, from: value.from, to: value.to },
          result
        ]),
        last,
        at
      );
    },
    examples: [
      ['SWITCH(2; 1; "one"; 2; "two"; "more")', "two"],
      ['SWITCH("z"; "a"; 1; "b"; 2; 9)', "9"],
      ['SWITCH("z"; "a"; 1)', ""]
    ]
  }
];

// core/src/table/joined-texts.ts
var isWritable = (text3) => !/\p{Surrogate}/u.test(text3);
var encode = (texts, decoder) => {
  if (!texts.every(isWritable)) return void 0;
  const { bytes, ends: ends2 } = textsOf(texts);
  const offsets = uint32s(texts.length + 1);
  offsets.set(ends2, 1);
  return unpacked({ offsets, bytes }, decoder);
};
var encodedPart = (part2, decoder) => {
  if (typeof part2 === "string") return encode([part2], decoder)?.bytes;
  if (part2.form === "plain") return part2.stored?.encoded;
  const words3 = encode(part2.dictionary, decoder);
  const { indices } = part2;
  return words3 && gatherEncoded(words3, new Int32Array(indices.buffer, indices.byteOffset, indices.length));
};
var addLengths = (lengths, { starts, ends: ends2 }) => {
  const n = lengths.length;
  for (let i = 0; i < n; i++) lengths[i] = lengths[i] + ends2[i] - starts[i];
};
var copyText = (bytes, places3, from) => {
  const n = places3.length;
  const length = from.length;
  for (let i = 0; i < n; i++) {
    const at = places3[i];
    for (let k = 0; k < length; k++) bytes[at + k] = from[k];
    places3[i] = at + length;
  }
};
var placeTexts = (lengths, offsets) => {
  const n = lengths.length;
  let end = 0;
  let longest4 = 0;
  for (let i = 0; i < n; i++) {
    end += lengths[i];
    if (lengths[i] > longest4) longest4 = lengths[i];
    offsets[i + 1] = end;
  }
  return longest4 <= maxCellCharacters && end <= maxColumnCharacters;
};
var copyTexts2 = (bytes, places3, from, starts, ends2) => {
  const n = starts.length;
  for (let i = 0; i < n; i++) {
    let at = places3[i];
    const end = ends2[i];
    for (let k = starts[i]; k < end; k++) bytes[at++] = from[k];
    places3[i] = at;
  }
};
var joinedTexts = (parts2, rows2) => {
  const first2 = parts2.flatMap(
    (part2) => typeof part2 !== "string" && part2.form === "plain" ? part2.stored?.encoded ?? [] : []
  )[0];
  if (!first2) return void 0;
  const { decoder } = first2;
  const all = parts2.flatMap((part2) => encodedPart(part2, decoder) ?? []);
  if (all.length < parts2.length) return void 0;
  const constant = all.reduce((sum, part2) => sum + (part2 instanceof Uint8Array ? part2.length : 0), 0);
  const lengths = new Float64Array(rows2).fill(constant);
  for (const part2 of all) if (!(part2 instanceof Uint8Array)) addLengths(lengths, part2);
  const offsets = uint32s(rows2 + 1);
  if (!placeTexts(lengths, offsets)) return void 0;
  const bytes = uint8s(offsets[rows2]);
  const places3 = offsets.slice(0, rows2);
  for (const part2 of all)
    if (part2 instanceof Uint8Array) copyText(bytes, places3, part2);
    else copyTexts2(bytes, places3, plainBytes(part2.bytes), part2.starts, part2.ends);
  return plainTextFromBytes("text", new LazyStrings(unpacked({ offsets, bytes }, decoder)));
};

// core/src/formula/functions/text.ts
var textOf = (cell, type) => cell === null ? "" : textOfCell(type === void 0 || type === "empty" ? "text" : type, cell);
var surrogate2 = /[\ud800-\udfff]/;
var leading = (text3, n) => surrogate2.test(text3) ? Array.from(text3).slice(0, n).join("") : text3.slice(0, n);
var trailing = (text3, n) => {
  const all = surrogate2.test(text3) ? Array.from(text3) : text3;
  const from = Math.max(0, all.length - n);
  return typeof all === "string" ? all.slice(from) : all.slice(from).join("");
};
var isAtLeast = (constant, least2) => typeof constant === "number" && Math.trunc(constant) >= least2;
var cut = (name2, take) => define({
  name: name2,
  group: "text",
  about: `The ${name2 === "LEFT" ? "first" : "last"} n characters, one where n is not given.`,
  args: "text:text n:number?",
  result: "text",
  total: (constants2) => constants2.length < 2 || isAtLeast(constants2[1], 0),
  fails: {
    sql: ([, n]) => n ? sql`trunc(${n}) < 0` : code("false"),
    python: () => code("lambda t, n=1: int(n) < 0")
  },
  call: ([text3, n]) => whole2(n, 1) < 0 ? failed : take(text3, whole2(n, 1)),
  examples: name2 === "LEFT" ? [
    ['LEFT("abc"; 5)', "abc"],
    ['LEFT("\xC4bc")', "\xC4"],
    ['LEFT("abc"; -1)', ""],
    ['LEFT("a\u{1F600}b"; 2)', "a\u{1F600}"]
  ] : [
    ['RIGHT("abc"; 2)', "bc"],
    ['RIGHT("abc"; 0)', ""],
    ['RIGHT("a\u{1F600}"; 1)', "\u{1F600}"]
  ]
});
var letters2 = (name2, about, change, examples) => define({
  name: name2,
  group: "text",
  about,
  args: "text:text",
  result: "text",
  total: true,
  call: ([text3]) => change(text3),
  scripts: {
    sql: ([t = code("")]) => sql`${sqlHelper(name2 === "LOWER" ? "lower_of" : "upper_of")}(${t})`
  },
  examples
});
var holds = (name2, about, test, examples) => define({
  name: name2,
  group: "text",
  about,
  args: "text:text part:text",
  result: "boolean",
  total: true,
  call: ([text3, part2]) => test(text3, part2),
  examples
});
var substitute = (text3, old, next, which) => {
  if (old === "") return text3;
  if (which === void 0) return text3.replaceAll(old, () => next);
  if (which < 1) return failed;
  const parts2 = text3.split(old);
  return parts2.length <= which ? text3 : parts2.slice(0, which).join(old) + next + parts2.slice(which).join(old);
};
var find = (text3, what, from) => {
  if (from < 1 || from > signs(text3).length + 1) return failed;
  const skipped = signs(text3).slice(0, from - 1).join("").length;
  const at = text3.indexOf(what, skipped);
  return at < 0 ? failed : signs(text3.slice(0, at)).length + 1;
};
var joinAll = (cells, types) => cells.map((cell, i) => textOf(cell, types[i])).join("");
var text = [
  define({
    name: "LEN",
    group: "text",
    total: true,
    about: "How many characters the text has.",
    args: "text:text",
    result: "integer",
    call: ([t]) => signs(t).length,
    scripts: {
      sql: ([t = code("")]) => sql`char_length(${t})::bigint`
    },
    examples: [
      ['LEN("Marlpit")', "7"],
      ['LEN("a\u{1F600}")', "2"],
      ["LEN(EMPTY)", ""]
    ]
  }),
  cut("LEFT", leading),
  cut("RIGHT", trailing),
  define({
    name: "MID",
    group: "text",
    about: "n characters from a position on; the first is 1.",
    args: "text:text start:number n:number",
    result: "text",
    total: ([, start, n]) => isAtLeast(start, 1) && isAtLeast(n, 0),
    fails: {
      sql: ([, start = code(""), n = code("")]) => sql`trunc(${start}) < 1 or trunc(${n}) < 0`,
      python: () => code("lambda t, s, n: int(s) < 1 or int(n) < 0")
    },
    call: ([t, start, n]) => whole2(start, 1) < 1 || whole2(n, 0) < 0 ? failed : signs(t).slice(whole2(start, 1) - 1, whole2(start, 1) - 1 + whole2(n, 0)).join(""),
    examples: [
      ['MID("VAC-2"; 1; 3)', "VAC"],
      ['MID("abc"; 9; 2)', ""],
      ['MID("abc"; 0; 2)', ""]
    ]
  }),
  letters2("UPPER", "In large letters.", upper, [['UPPER("marlpit \xE9")', "MARLPIT \xC9"]]),
  letters2("LOWER", "In small letters.", lower, [['LOWER("Tarn END \xDC")', "tarn end \xFC"]]),
  define({
    name: "TRIM",
    group: "text",
    total: true,
    about: "Without white space at the ends; runs inside become one blank.",
    args: "text:text",
    result: "text",
    fails: "never",
    call: ([t]) => trim(t).replace(new RegExp(`[${space}]+`, "g"), " "),
    scripts: { pandas: ([t = code("")]) => py`${pyHelper("trimmed")}(${t})` },
    examples: [
      ['TRIM("  Long   Acre ")', "Long Acre"],
      ['TRIM("   ")', ""]
    ]
  }),
  define({
    name: "CONCAT",
    group: "text",
    total: true,
    about: "Its arguments as one text; empties count as no text.",
    args: "value:any+",
    result: "text",
    seesEmpty: true,
    call: joinAll,
    vector: (parts2, types, rowCount) => {
      const texts = parts2.map((part2, i) => {
        if (typeof part2 !== "object" || part2 === null) return textOf(part2, types[i]);
        return part2.type === "text" ? part2 : void 0;
      });
      const column = texts.includes(void 0) ? void 0 : joinedTexts(texts, rowCount);
      return column && { column, failures: new Int32Array(0) };
    },
    scripts: {
      sql: (parts2) => sql`nullif(${joined(
        parts2.map((part2) => sql`coalesce(${sqlHelper("shown")}(${part2}), '')`),
        " || "
      )}, '')`
    },
    examples: [
      ['CONCAT("a"; 1; EMPTY; TRUE)', "a1true"],
      ['CONCAT(DATE(2031; 5; 2); " ok")', "2031-05-02 ok"],
      ["CONCAT(EMPTY)", ""]
    ]
  }),
  define({
    name: "SUBSTITUTE",
    group: "text",
    about: "One text put for another, everywhere or only the which-th time.",
    args: "text:text old:text new:text which:number?",
    result: "text",
    fails: {
      sql: ([, , , which]) => which ? sql`trunc(${which}) < 1` : code("false"),
      python: () => code('lambda t, o, n, w=1: o != "" and int(w) < 1')
    },
    call: ([t, old, next, which]) => substitute(
      t,
      old,
      next,
      which === void 0 ? void 0 : Math.trunc(which)
    ),
    examples: [
      ['SUBSTITUTE("a-b-c"; "-"; "")', "abc"],
      ['SUBSTITUTE("a-b-c"; "-"; "+"; 2)', "a-b+c"],
      ['SUBSTITUTE("--"; "-"; "")', ""],
      ['SUBSTITUTE("abc"; "x"; "y"; 1)', "abc"]
    ]
  }),
  define({
    name: "FIND",
    group: "text",
    about: "Where a text first stands in another, from 1; large and small letters differ.",
    args: "what:text text:text from:number?",
    result: "integer",
    call: ([what, t, from]) => find(t, what, whole2(from, 1)),
    examples: [
      ['FIND("-"; "VAC-2")', "4"],
      ['FIND("z"; "abc")', ""],
      ['FIND("a"; "banana"; 3)', "4"],
      ['FIND("b"; "\u{1F600}b")', "2"]
    ]
  }),
  holds("CONTAINS", "Whether a text stands in another; large and small letters differ.", (t, p) => t.includes(p), [
    ['CONTAINS("Marlpit"; "pit")', "true"],
    ['CONTAINS("Marlpit"; "PIT")', "false"],
    ['CONTAINS(EMPTY; "a")', ""]
  ]),
  holds("STARTSWITH", "Whether a text begins with another.", (t, p) => t.startsWith(p), [
    ['STARTSWITH("VAC-2"; "VAC")', "true"],
    ['STARTSWITH("VAC-2"; "vac")', "false"]
  ]),
  holds("ENDSWITH", "Whether a text ends with another.", (t, p) => t.endsWith(p), [
    ['ENDSWITH("VAC-2"; "2")', "true"],
    ['ENDSWITH("a"; "ba")', "false"]
  ]),
  define({
    name: "TEXTJOIN",
    group: "text",
    about: "Its arguments as one text with a separator between; empties are passed over where skip is TRUE.",
    args: [...args("separator:text skip:boolean"), ...args("value:any+")],
    result: "text",
    seesEmpty: true,
    call: ([separator, skip, ...cells], types) => cells.map((cell, i) => textOf(cell, types[i + 2])).filter((part2) => part2 !== "" || skip !== true).join(separator ?? ""),
    scripts: {
      sql: ([separator = code(""), skip = code(""), ...parts2]) => sql`${sqlHelper("fx_textjoin")}(${separator}, ${skip}, ${joined(
        parts2.map((part2) => sql`${sqlHelper("shown")}(${part2})`),
        ", "
      )})`,
      python: (parts2) => py`${pyHelper("fx_textjoin")}(${parts2})`
    },
    examples: [
      ['TEXTJOIN(", "; TRUE; "a"; EMPTY; 2)', "a, 2"],
      ['TEXTJOIN("-"; FALSE; "a"; EMPTY; "b")', "a--b"],
      ['TEXTJOIN(","; TRUE; EMPTY)', ""]
    ]
  })
];

// core/src/codegen/regex/engine.ts
import { RE2JS } from "re2js";

// core/src/codegen/regex/fold.ts
var lastPoint = 1114111;
var merged = (ranges2) => {
  const made3 = [];
  for (const [low, high] of ranges2.toSorted((a, b) => a[0] - b[0])) {
    const before = made3.at(-1);
    if (before && low <= before[1] + 1) before[1] = Math.max(before[1], high);
    else made3.push([low, high]);
  }
  return made3;
};
var complement = (ranges2) => {
  const made3 = [];
  let from = 0;
  for (const [low, high] of merged(ranges2)) {
    if (low > from) made3.push([from, low - 1]);
    from = high + 1;
  }
  if (from <= lastPoint) made3.push([from, lastPoint]);
  return made3;
};
var includes = (ranges2, point) => ranges2.some(([low, high]) => low <= point && point <= high);
var orbits;
var caseOrbits = () => {
  if (orbits) return orbits;
  const near = /* @__PURE__ */ new Map();
  for (let point = 0; point <= 131071; point++) {
    if (point >= 55296 && point <= 57343) continue;
    const letter = String.fromCodePoint(point);
    const others = [letter.toLowerCase(), letter.toUpperCase()].filter((other) => other !== letter);
    for (const other of others) {
      const to = other.codePointAt(0);
      if (String.fromCodePoint(to) !== other || !new RegExp(`^${other}$`, "iu").test(letter)) continue;
      const together3 = /* @__PURE__ */ new Set([point, to, ...near.get(point) ?? [], ...near.get(to) ?? []]);
      for (const one2 of together3) near.set(one2, together3);
    }
  }
  orbits = new Map([...near].map(([point, together3]) => [point, [...together3]]));
  return orbits;
};
var folded = (ranges2) => {
  const made3 = [...ranges2];
  for (const [point, together3] of caseOrbits())
    if (includes(ranges2, point)) for (const other of together3) made3.push([other, other]);
  return merged(made3);
};

// core/src/codegen/regex/parse.ts
var between = (text3) => Array.from(text3.matchAll(/(.)-(.)|(.)/gsu), ([, low, high, one2]) => [
  (low ?? one2)?.codePointAt(0),
  (high ?? one2)?.codePointAt(0)
]);
var wordSigns = between("0-9A-Za-z_");
var classes = {
  d: between("0-9"),
  w: wordSigns,
  s: between("	\n\f\r ")
};
var posix = {
  alnum: between("0-9A-Za-z"),
  alpha: between("A-Za-z"),
  ascii: [[0, 127]],
  blank: between("	 "),
  cntrl: [
    [0, 31],
    [127, 127]
  ],
  digit: between("0-9"),
  graph: between("!-~"),
  lower: between("a-z"),
  print: between(" -~"),
  punct: between("!-/:-@[-`{-~"),
  space: between("	\n\v\f\r "),
  upper: between("A-Z"),
  word: wordSigns,
  xdigit: between("0-9A-Fa-f")
};
var controls = { a: 7, f: 12, t: 9, n: 10, r: 13, v: 11 };
var counts = {
  "*": ["0", ""],
  "+": ["1", ""],
  "?": ["0", "1"]
};
var places2 = { A: "text-start", z: "text-end", b: "word", B: "no-word" };
var known2 = /* @__PURE__ */ new Map();
var unicodeClass = (name2) => {
  const found2 = known2.get(name2);
  if (found2) return found2;
  const test = name2 === "Any" ? /^/u : new RegExp(`\\p{${/^[A-Z][a-z]?$/.test(name2) ? name2 : `Script=${name2}`}}`, "u");
  const made3 = [];
  let start = -1;
  for (let point = 0; point <= lastPoint + 1; point++) {
    const inside = point <= lastPoint && test.test(String.fromCodePoint(point));
    if (inside && start < 0) start = point;
    if (!inside && start >= 0) {
      made3.push([start, point - 1]);
      start = -1;
    }
  }
  known2.set(name2, made3);
  return made3;
};
var PatternReader = class {
  signs;
  at = 0;
  groups = 0;
  flags;
  constructor(pattern2, ignoreCase) {
    this.signs = Array.from(pattern2);
    this.flags = { i: ignoreCase, m: false, s: false, U: false };
  }
  read() {
    const made3 = this.choice();
    if (this.at < this.signs.length) throw new Error(`a pattern is not read to its end: ${this.signs.join("")}`);
    return made3;
  }
  peek(text3) {
    return this.signs.slice(this.at, this.at + text3.length).join("") === text3;
  }
  take(text3) {
    if (!this.peek(text3)) return false;
    this.at += text3.length;
    return true;
  }
  next() {
    return this.signs[this.at++] ?? "";
  }
  /** What matches at this place, taken. */
  matching(expression) {
    const found2 = expression.exec(this.signs.slice(this.at).join(""));
    if (found2) this.at += Array.from(found2[0]).length;
    return found2;
  }
  choice() {
    const of = [this.sequence()];
    while (this.take("|")) of.push(this.sequence());
    return of.length === 1 ? of[0] : { type: "choice", of };
  }
  sequence() {
    const parts2 = [];
    while (this.at < this.signs.length && !this.peek("|") && !this.peek(")")) {
      if (this.take("\\Q")) {
        const [, literal3 = ""] = this.matching(/^([\s\S]*?)(?:\\E|$)/u) ?? [];
        const all = Array.from(literal3, (sign2) => this.sign(sign2));
        parts2.push(...all.slice(0, -1));
        const last = all.at(-1);
        if (last) parts2.push(this.repeated(last));
        continue;
      }
      const atom = this.atom();
      if (atom) parts2.push(this.repeated(atom));
    }
    return parts2.length === 1 ? parts2[0] : { type: "sequence", parts: parts2 };
  }
  repeated(atom) {
    let made3 = atom;
    for (; ; ) {
      const [found2, sign2, least2, comma, most] = this.matching(/^(?:([*+?])|\{(\d+)(?:(,)(\d*))?\})/u) ?? [];
      if (found2 === void 0) return made3;
      const lazy = this.take("?") !== this.flags.U;
      const [lower2, upper2] = ownValue(counts, sign2 ?? "") ?? [least2, comma === void 0 ? least2 : most];
      made3 = { type: "repeat", of: made3, least: Number(lower2), ...upper2 ? { most: Number(upper2) } : {}, lazy };
    }
  }
  sign(sign2) {
    const point = sign2.codePointAt(0);
    return this.set([[point, point]]);
  }
  set(ranges2, negated = false) {
    const cased = this.flags.i ? folded(ranges2) : merged(ranges2);
    return { type: "set", ranges: negated ? complement(cased) : cased };
  }
  atom() {
    if (this.take("(")) return this.group();
    if (this.peek("[")) return this.bracket();
    if (this.peek("\\")) return this.escape();
    const sign2 = this.next();
    if (sign2 === ".")
      return this.flags.s ? { type: "set", ranges: [[0, lastPoint]] } : { type: "set", ranges: complement([[10, 10]]) };
    if (sign2 === "^") return { type: "at", place: this.flags.m ? "line-start" : "text-start" };
    if (sign2 === "$") return { type: "at", place: this.flags.m ? "line-end" : "text-end" };
    return this.sign(sign2);
  }
  group() {
    const before = this.flags;
    const [options3, name2, on = "", off = ""] = this.matching(/^\?(?:P?<(\w+)>|([imsU]*)(?:-([imsU]*))?(?=[:)]))/u) ?? [];
    const capture = options3 === void 0 || name2 !== void 0;
    if (!capture) {
      const turned = (flag) => !off.includes(flag) && (on.includes(flag) || before[flag]);
      this.flags = { i: turned("i"), m: turned("m"), s: turned("s"), U: turned("U") };
      if (this.take(")")) return void 0;
      this.take(":");
    }
    const index = capture ? ++this.groups : 0;
    const of = this.choice();
    this.take(")");
    this.flags = before;
    return capture ? { type: "group", index, of } : of;
  }
  /** A class that stands alone or in brackets: \d, \pL, \p{^Greek}; with its sense. */
  class() {
    const [property, sense, caret, long, short] = this.matching(/^\\([pP])(?:\{(\^?)(\w+)\}|(\w))/u) ?? [];
    if (property !== void 0)
      return { ranges: unicodeClass(long ?? short ?? ""), negated: sense === "P" !== (caret === "^") };
    const [, letter = ""] = this.matching(/^\\([dDwWsS])/u) ?? [];
    const ranges2 = ownValue(classes, letter.toLowerCase());
    return ranges2 && { ranges: ranges2, negated: letter !== letter.toLowerCase() };
  }
  /** The code point of an escape that stands for one character. */
  escapedPoint() {
    this.take("\\");
    const [, long, short] = this.matching(/^x(?:\{([0-9A-Fa-f]+)\}|([0-9A-Fa-f]{2}))/u) ?? [];
    if (long ?? short) return parseInt(long ?? short ?? "", 16);
    const [octal] = this.matching(/^[0-7]{1,3}/u) ?? [];
    if (octal) return parseInt(octal, 8);
    const sign2 = this.next();
    return ownValue(controls, sign2) ?? sign2.codePointAt(0);
  }
  escape() {
    const found2 = this.class();
    if (found2) return this.set(found2.ranges, found2.negated);
    const place = ownValue(places2, this.signs[this.at + 1] ?? "");
    if (place) {
      this.at += 2;
      return { type: "at", place };
    }
    const point = this.escapedPoint();
    return this.set([[point, point]]);
  }
  bracket() {
    this.take("[");
    const negated = this.take("^");
    const ranges2 = [];
    const add = (more, not) => {
      const cased = this.flags.i ? folded(more) : more;
      ranges2.push(...not ? complement(cased) : cased);
    };
    for (let first2 = true; first2 || !this.peek("]"); first2 = false) {
      const [named2, caret, name2 = ""] = this.matching(/^\[:(\^?)(\w+):\]/u) ?? [];
      if (named2 !== void 0) {
        add(ownValue(posix, name2) ?? [], caret === "^");
        continue;
      }
      const found2 = this.class();
      if (found2) {
        add(found2.ranges, found2.negated);
        continue;
      }
      const low = this.bracketPoint();
      const isRange = this.peek("-") && this.signs[this.at + 1] !== "]";
      if (isRange) this.at++;
      add([[low, isRange ? this.bracketPoint() : low]], false);
    }
    this.take("]");
    return { type: "set", ranges: negated ? complement(ranges2) : merged(ranges2) };
  }
  bracketPoint() {
    return this.peek("\\") ? this.escapedPoint() : this.next().codePointAt(0);
  }
};
var parsePattern = (pattern2, ignoreCase = false) => new PatternReader(pattern2, ignoreCase).read();
var partsOf = (pattern2) => {
  if (pattern2.type === "sequence") return pattern2.parts;
  if (pattern2.type === "choice") return pattern2.of;
  return pattern2.type === "group" || pattern2.type === "repeat" ? [pattern2.of] : [];
};
var anyPart = (pattern2, is) => is(pattern2) || partsOf(pattern2).some((part2) => anyPart(part2, is));
var isNullable = (pattern2) => {
  switch (pattern2.type) {
    case "set":
      return false;
    case "at":
      return true;
    case "group":
      return isNullable(pattern2.of);
    case "sequence":
      return pattern2.parts.every(isNullable);
    case "choice":
      return pattern2.of.some(isNullable);
    case "repeat":
      return pattern2.least === 0 || isNullable(pattern2.of);
  }
};

// core/src/codegen/regex/replacement.ts
var replacementParts = (put) => put.split(/(\$\$|\$[0-9])/).filter((part2) => part2 !== "").map((part2) => {
  if (part2 === "$$") return { text: "$" };
  return /^\$[0-9]$/.test(part2) ? { group: Number(part2.slice(1)) } : { text: part2 };
});
var writtenReplacement = (put, group) => replacementParts(put).map((part2) => "text" in part2 ? part2.text.replaceAll("\\", "\\\\") : group(part2.group)).join("");

// core/src/codegen/regex/engine.ts
var compilePattern = (pattern2, ignoreCase) => RE2JS.compile(pattern2, ignoreCase ? RE2JS.CASE_INSENSITIVE : 0);
var repeatsNothing = (pattern2) => anyPart(
  pattern2,
  (part2) => part2.type === "repeat" && (part2.most ?? 2) > 1 && isNullable(part2.of) && anyPart(part2.of, ({ type }) => type === "group")
);
var patternProblem2 = (pattern2) => {
  try {
    compilePattern(pattern2, false);
  } catch (error) {
    return error instanceof Error ? error.message.replace(/^error parsing regexp: /, "") : String(error);
  }
  return /\)[*+?{]/.test(pattern2) && repeatsNothing(parsePattern(pattern2)) ? "a group in it is repeated that can match nothing; let it match one character at least: (a+)* for (a*)*" : void 0;
};
var replaceMatches = (text3, pattern2, put) => {
  const parts2 = replacementParts(put);
  const matcher = pattern2.matcher(text3);
  let made3 = "";
  let end = 0;
  while (matcher.find()) {
    made3 += text3.slice(end, matcher.start());
    for (const part2 of parts2) {
      if ("text" in part2) made3 += part2.text;
      else if (part2.group <= matcher.groupCount()) made3 += matcher.group(part2.group) ?? "";
    }
    end = matcher.end();
  }
  return made3 + text3.slice(end);
};

// core/src/codegen/regex/write.ts
var hex = (point, digits2) => point.toString(16).padStart(digits2, "0");
var escapedPoint = (point) => point > 65535 ? `\\U${hex(point, 8)}` : `\\u${hex(point, 4)}`;
var controls2 = { 9: "\\t", 10: "\\n", 12: "\\f", 13: "\\r" };
var sign = (point, special) => {
  const control = controls2[point];
  if (control) return control;
  const letter = String.fromCodePoint(point);
  if (special.test(letter)) return `\\${letter}`;
  return /^[\p{L}\p{N}\p{P}\p{S} ]$/u.test(letter) ? letter : escapedPoint(point);
};
var alone = (point) => sign(point, /[.*+?^${}()|[\]\\]/);
var within = (point) => sign(point, /[\^\]\\[-]/);
var first = 1;
var bracketed = (ranges2) => {
  const negated = ranges2[0]?.[0] === 0 && ranges2.at(-1)?.[1] === lastPoint;
  const listed2 = (negated ? complement(ranges2) : ranges2).map(([low, high]) => [Math.max(low, first), high]).filter(([low, high]) => low <= high).map(([low, high]) => {
    if (low === high) return within(low);
    return `${within(low)}${high === low + 1 ? "" : "-"}${within(high)}`;
  }).join("");
  if (listed2 === "") return negated ? "[\\u0001-\\U0010ffff]" : "(?:(?!a)a)";
  return `[${negated ? "^" : ""}${listed2}]`;
};
var setIn = (ranges2) => {
  const [only] = ranges2;
  return ranges2.length === 1 && only && only[0] === only[1] ? alone(only[0]) : bracketed(ranges2);
};
var word = "[0-9A-Za-z_]";
var placeIn = {
  "text-start": "\\A",
  "text-end": "\\Z",
  "line-start": "(?:\\A|(?<=\\n))",
  "line-end": "(?:\\Z|(?=\\n))",
  word: `(?:(?<=${word})(?!${word})|(?<!${word})(?=${word}))`,
  "no-word": `(?:(?<=${word})(?=${word})|(?<!${word})(?!${word}))`
};
var mostCounted = 255;
var counted2 = (least2, most) => {
  if (least2 === 0 && most === void 0) return "*";
  if (least2 === 1 && most === void 0) return "+";
  if (least2 === 0 && most === 1) return "?";
  if (least2 === most) return `{${least2}}`;
  return `{${least2},${most ?? ""}}`;
};
var write = (pattern2, how, inside) => {
  switch (pattern2.type) {
    case "set":
      return setIn(pattern2.ranges);
    case "at": {
      const text3 = placeIn[pattern2.place];
      return inside === "repeat" ? `(?:${text3})` : text3;
    }
    case "group":
      return how.groups ? `(${write(pattern2.of, how, "all")})` : write(pattern2.of, how, inside);
    case "sequence": {
      const text3 = pattern2.parts.map((part2) => write(part2, how, "sequence")).join("");
      return inside === "repeat" || text3 === "" ? `(?:${text3})` : text3;
    }
    case "choice": {
      const text3 = pattern2.of.map((part2) => write(part2, how, "all")).join("|");
      return inside === "all" ? text3 : `(?:${text3})`;
    }
    case "repeat": {
      const text3 = repeated(pattern2, how);
      return inside === "repeat" ? `(?:${text3})` : text3;
    }
  }
};
var repeated = ({ of, least: least2, most, lazy }, how) => {
  const text3 = write(of, how, "repeat");
  const sign2 = lazy && !how.greedy && least2 !== most ? "?" : "";
  if (least2 <= mostCounted && (most ?? 0) <= mostCounted) return `${text3}${counted2(least2, most)}${sign2}`;
  const parts2 = [];
  for (let left = least2; left > 0; left -= mostCounted) parts2.push(`${text3}{${Math.min(left, mostCounted)}}`);
  if (most === void 0) parts2.push(`${text3}*${sign2}`);
  for (let left = (most ?? least2) - least2; left > 0; left -= mostCounted)
    parts2.push(`${text3}{0,${Math.min(left, mostCounted)}}${sign2}`);
  return parts2.join("");
};
var pythonPattern = (pattern2) => write(pattern2, { groups: true, greedy: false }, "all");
var sqlPattern = (pattern2, groups) => write(pattern2, { groups, greedy: true }, "all");
var sqlSet = setIn;

// core/src/codegen/regex/program.ts
var longest2 = 3e3;
var TooLong = class extends Error {
};
var programOf = (pattern2) => {
  const made3 = [];
  const put = (one2) => {
    if (made3.length >= longest2)
      throw new TooLong("a pattern repeats too much to be matched in SQL; count less often in it");
    return made3.push(one2) - 1;
  };
  const compile = (one2, to) => {
    switch (one2.type) {
      case "set":
        return put({ type: "set", ranges: one2.ranges, to });
      case "at":
        return put({ type: "at", place: one2.place, to });
      case "group": {
        const end2 = put({ type: "save", slot: 2 * one2.index + 1, to });
        return put({ type: "save", slot: 2 * one2.index, to: compile(one2.of, end2) });
      }
      case "sequence":
        return one2.parts.reduceRight((next, part2) => compile(part2, next), to);
      case "choice":
        return one2.of.map((way) => compile(way, to)).reduceRight((rest, way) => put({ type: "fork", to: [way, rest] }));
      case "repeat":
        return repeat(one2, to);
    }
  };
  const repeat = ({ of, least: least2, most, lazy }, to) => {
    const ways = (again, on) => lazy ? [on, again] : [again, on];
    let next = to;
    if (most === void 0) {
      const fork = { type: "fork", to: [0, 0] };
      next = put(fork);
      const body = compile(of, next);
      fork.to = ways(body, to);
      if (least2 === 0 && isNullable(of)) next = put({ type: "fork", to: ways(body, to) });
    } else for (let i = least2; i < most; i++) next = put({ type: "fork", to: ways(compile(of, next), to) });
    for (let i = 0; i < least2; i++) next = compile(of, next);
    return next;
  };
  const done = put({ type: "done" });
  const end = put({ type: "save", slot: 1, to: done });
  const start = put({ type: "save", slot: 0, to: compile(pattern2, end) });
  return inOrder(made3, start);
};
var inOrder = (made3, start) => {
  const place = /* @__PURE__ */ new Map();
  const waiting = [start];
  for (let at = waiting.pop(); at !== void 0; at = waiting.pop()) {
    if (place.has(at)) continue;
    place.set(at, place.size);
    const one2 = made3[at];
    if (one2.type === "fork") waiting.push(...one2.to.toReversed());
    else if (one2.type !== "done") waiting.push(one2.to);
  }
  const moved2 = (to) => place.get(to);
  return [...place.keys()].map((at) => {
    const one2 = made3[at];
    if (one2.type === "fork") return { ...one2, to: [moved2(one2.to[0]), moved2(one2.to[1])] };
    return one2.type === "done" ? one2 : { ...one2, to: moved2(one2.to) };
  });
};

// core/src/codegen/regex/longest.ts
var besides = ["end", "line", "word", "other"];
var besideOf = (point) => {
  if (point === 10) return "line";
  return includes(wordSigns, point) ? "word" : "other";
};
var holds2 = (place, before, after) => {
  switch (place) {
    case "text-start":
      return before === "end";
    case "text-end":
      return after === "end";
    case "line-start":
      return before === "end" || before === "line";
    case "line-end":
      return after === "end" || after === "line";
    case "word":
      return before === "word" !== (after === "word");
    case "no-word":
      return before === "word" === (after === "word");
  }
};
var alphabetOf = (program) => {
  const ranges2 = program.flatMap((one2) => one2.type === "set" ? [one2.ranges] : []);
  const looks2 = program.some((one2) => one2.type === "at");
  const all = looks2 ? [...ranges2, [[10, 10]], wordSigns] : ranges2;
  const starts = /* @__PURE__ */ new Set([0, ...all.flatMap((set3) => set3.flatMap(([low, high]) => [low, high + 1]))]);
  const kinds2 = /* @__PURE__ */ new Map();
  for (const point of starts) {
    if (point > lastPoint) continue;
    const kind = all.map((set3) => includes(set3, point) ? "1" : "0").join("");
    if (!kinds2.has(kind)) kinds2.set(kind, point);
  }
  return [...kinds2.values()];
};
var reached = (program, from, before, after, stopWhenDone) => {
  const seen2 = /* @__PURE__ */ new Set();
  const sets = [];
  const waiting = from.toReversed();
  for (let at = waiting.pop(); at !== void 0; at = waiting.pop()) {
    if (seen2.has(at)) continue;
    seen2.add(at);
    const one2 = program[at];
    if (one2.type === "done") {
      if (stopWhenDone) return { sets, done: true };
    } else if (one2.type === "set") sets.push(at);
    else if (one2.type === "fork") waiting.push(...one2.to.toReversed());
    else if (one2.type === "save" || holds2(one2.place, before, after)) waiting.push(one2.to);
  }
  return { sets, done: program.some((one2, at) => one2.type === "done" && seen2.has(at)) };
};
var stepped = (program, sets, point) => sets.flatMap((at) => {
  const one2 = program[at];
  return one2.type === "set" && includes(one2.ranges, point) ? [one2.to] : [];
});
var mostStates = 4e3;
var endsAlike = (program) => {
  const alphabet = alphabetOf(program);
  const seen2 = /* @__PURE__ */ new Set();
  const waiting = besides.map((before) => ({ first: [0], any: [0], before, same: true }));
  const further = (race, point) => {
    const after = point === void 0 ? "end" : besideOf(point);
    const first2 = reached(program, race.first, race.before, after, true);
    const any = reached(program, race.any, race.before, after, false);
    const same = any.done ? first2.done : race.same;
    const step = (sets) => point === void 0 ? [] : stepped(program, sets, point);
    return { first: step(first2.sets), any: step(any.sets).toSorted((a, b) => a - b), before: after, same };
  };
  for (let race = waiting.pop(); race; race = waiting.pop()) {
    const key = `${race.before}${race.same}${race.first.join()};${[...new Set(race.any)].join()}`;
    if (seen2.has(key)) continue;
    if (seen2.size >= mostStates) return false;
    seen2.add(key);
    if (race.any.length === 0) {
      if (!race.same) return false;
      continue;
    }
    for (const point of [void 0, ...alphabet]) waiting.push(further(race, point));
  }
  return true;
};
var mostWays = 60;
var waysFrom = (program, from, before, after) => {
  const ways = [];
  const walk = (at, saves, on) => {
    if (on.has(at)) return true;
    const one2 = program[at];
    if (one2.type === "set" || one2.type === "done") return ways.push({ at, saves }) <= mostWays;
    const further = new Set(on).add(at);
    if (one2.type === "fork") return one2.to.every((to) => walk(to, saves, further));
    if (one2.type === "save") return walk(one2.to, `${saves}${one2.slot};`, further);
    return !holds2(one2.place, before, after) || walk(one2.to, saves, further);
  };
  return walk(from, "", /* @__PURE__ */ new Set()) ? ways : void 0;
};
var pairsAfter = (program, pair, point) => {
  const after = point === void 0 ? "end" : besideOf(point);
  const some2 = waysFrom(program, pair.one, pair.before, after);
  const others = waysFrom(program, pair.other, pair.before, after);
  if (!some2 || !others) return void 0;
  const isDone = (way) => program[way.at].type === "done";
  const next = ({ at }) => point === void 0 ? [] : stepped(program, [at], point);
  const both2 = some2.flatMap((a) => others.map((b) => ({ a, b, differ: pair.differ || a.saves !== b.saves })));
  if (both2.some(({ a, b, differ }) => differ && isDone(a) && isDone(b))) return void 0;
  return both2.flatMap(
    ({ a, b, differ }) => next(a).flatMap((one2) => next(b).map((other) => ({ one: one2, other, before: after, differ })))
  );
};
var groupsAlike = (program) => {
  const alphabet = alphabetOf(program);
  const seen2 = /* @__PURE__ */ new Set();
  const waiting = besides.map((before) => ({ one: 0, other: 0, before, differ: false }));
  for (let pair = waiting.pop(); pair; pair = waiting.pop()) {
    const key = JSON.stringify(pair);
    if (seen2.has(key)) continue;
    if (seen2.size >= mostStates) return false;
    seen2.add(key);
    for (const point of [void 0, ...alphabet]) {
      const further = pairsAfter(program, pair, point);
      if (!further) return false;
      waiting.push(...further);
    }
  }
  return true;
};
var countsPast = (pattern2) => anyPart(pattern2, (part2) => part2.type === "repeat" && Math.max(part2.least, part2.most ?? 0) > mostCounted);
var isFlat = (pattern2) => {
  if (pattern2.type === "set" || pattern2.type === "at") return true;
  if (pattern2.type === "repeat") return !pattern2.lazy && pattern2.of.type === "set";
  if (pattern2.type === "sequence") return pattern2.parts.every(isFlat);
  return pattern2.type === "group" && isFlat(pattern2.of);
};
var isLongest = (pattern2, groups) => {
  try {
    const program = programOf(pattern2);
    return endsAlike(program) && (!groups || !countsPast(pattern2) && (isFlat(pattern2) || groupsAlike(program)));
  } catch (error) {
    if (error instanceof TooLong) return false;
    throw error;
  }
};

// core/src/codegen/regex/scripts.ts
var patternPython = (pattern2, ignoreCase = false) => pythonPattern(parsePattern(pattern2, ignoreCase));
var replacementPython = (put) => writtenReplacement(put, (n) => `\\g<${n}>`);
var matchesSql = (cell, pattern2) => {
  const program = programOf(pattern2);
  const texts = program.map((one2) => {
    if (one2.type === "set") return sql`${sqlSet(one2.ranges)}`;
    return sql`${one2.type === "at" ? `at ${one2.place}` : one2.type}`;
  });
  const goes = program.map((one2) => {
    if (one2.type === "fork") return one2.to[0] + 1;
    return one2.type === "done" ? 0 : one2.to + 1;
  });
  const other = program.map((one2) => {
    if (one2.type === "fork") return one2.to[1] + 1;
    return one2.type === "save" ? one2.slot + 1 : 0;
  });
  const slots = Math.max(...program.map((one2) => one2.type === "save" ? one2.slot + 1 : 0));
  return sql`${sqlHelper("pattern_matches")}(${cell}, array[${joined(texts, ", ")}], array[${code(goes.join(", "))}], array[${code(other.join(", "))}], ${slots})`;
};
var foundSql = (cell, pattern2, ignoreCase = false) => sql`${cell} ~ ${sqlPattern(parsePattern(pattern2, ignoreCase), false)}`;
var partSql = (cell, pattern2, group, last) => {
  const tree = parsePattern(pattern2);
  if (!isLongest(tree, group > 0) || last && isNullable(tree))
    return sql`${sqlHelper("match_part")}(${cell}, ${matchesSql(cell, tree)}, ${group}, ${last})`;
  const match = sql`${group === 0 ? `(${sqlPattern(tree, false)})` : sqlPattern(tree, true)}`;
  const at = code(String(Math.max(1, group)));
  return last ? sql`(select m[${at}] from regexp_matches(${cell}, ${match}, 'g') with ordinality as found(m, n) order by n desc limit 1)` : sql`(regexp_match(${cell}, ${match}))[${at}]`;
};
var replacedSql = (cell, pattern2, put, ignoreCase = false) => {
  const tree = parsePattern(pattern2, ignoreCase);
  const parts2 = replacementParts(put);
  const groups = parts2.some((part2) => "group" in part2 && part2.group > 0);
  if (isNullable(tree) || !isLongest(tree, groups)) {
    const texts = parts2.map((part2) => sql`${"text" in part2 ? part2.text : ""}`);
    const places3 = parts2.map((part2) => "group" in part2 ? part2.group : -1);
    return sql`${sqlHelper("put_matches")}(${cell}, ${matchesSql(cell, tree)}, array[${joined(texts, ", ")}]::text[], array[${code(places3.join(", "))}]::int[])`;
  }
  const into = writtenReplacement(put, (n) => `\\${n === 0 ? "&" : n}`);
  return sql`regexp_replace(${cell}, ${sqlPattern(tree, groups)}, ${into}, 'g')`;
};
var piecesSql = (cell, pattern2, at, most) => {
  const tree = parsePattern(pattern2);
  const cuts = isNullable(tree) || !isLongest(tree, false) ? matchesSql(cell, tree) : sql`${sqlHelper("cuts_by_pattern")}(${cell}, ${sqlPattern(tree, false)})`;
  return sql`${sqlHelper("pieces_by_cuts")}(${cell}, ${cuts}, ${at}, ${most})`;
};

// core/src/formula/functions/text-more.ts
var longest3 = maxCellCharacters;
var patternArgument = {
  name: "pattern",
  need: "text",
  constant: (value) => patternProblem2(String(value)) === void 0 ? void 0 : `The pattern cannot be read: ${patternProblem2(String(value)) ?? ""}.`
};
var groupArgument = {
  name: "group",
  need: "number",
  optional: true,
  constant: (value) => Number.isInteger(value) && value >= 0 && value <= 9 ? void 0 : "The group is a whole number from 0 to 9."
};
var pad = (name2) => define({
  name: name2,
  group: "text",
  about: `At least n characters long, filled up ${name2 === "PADLEFT" ? "before" : "behind"} the text; nothing is cut.`,
  args: "text:text n:number fill:text?",
  result: "text",
  call: ([t, n, fill3 = " "]) => {
    const missing2 = whole2(n, 0) - signs(t).length;
    if (whole2(n, 0) > longest3 || fill3 === "" || fill3 === null) return failed;
    if (missing2 <= 0) return t;
    const filling = signs(fill3);
    const more = Array.from({ length: missing2 }, (_, i) => filling[i % filling.length]).join("");
    return name2 === "PADLEFT" ? more + t : t + more;
  },
  examples: name2 === "PADLEFT" ? [
    ['PADLEFT("7"; 3; "0")', "007"],
    ['PADLEFT("Marlpit"; 3)', "Marlpit"],
    ['PADLEFT("a"; 4; "xy")', "xyxa"]
  ] : [
    ['PADRIGHT("7"; 3; "0")', "700"],
    ['PADRIGHT("a"; 3) & "|"', "a  |"]
  ]
});
var character = (name2, most) => define({
  name: name2,
  group: "text",
  about: name2 === "CHAR" ? "The character of a number from 1 to 255." : "The character of a Unicode number.",
  args: "n:number",
  result: "text",
  call: ([n]) => whole2(n, 0) >= 1 && whole2(n, 0) <= most && !(whole2(n, 0) >= 55296 && whole2(n, 0) <= 57343) ? String.fromCodePoint(whole2(n, 0)) : failed,
  examples: name2 === "CHAR" ? [
    ["CHAR(65)", "A"],
    ["CHAR(233)", "\xE9"],
    ["CHAR(0)", ""],
    ["CHAR(300)", ""]
  ] : [
    ["UNICHAR(128512)", "\u{1F600}"],
    ["UNICHAR(55296)", ""]
  ]
});
var codeOf = (name2) => define({
  name: name2,
  group: "text",
  about: "The Unicode number of the first character.",
  args: "text:text",
  result: "integer",
  call: ([t]) => t.codePointAt(0) ?? failed,
  examples: name2 === "CODE" ? [['CODE("Apple")', "65"]] : [
    ['UNICODE("\u{1F600}a")', "128512"],
    ['UNICODE("\xE9")', "233"]
  ]
});
var extract = (text3, source, group) => {
  const matcher = compilePattern(source, false).matcher(text3);
  if (!matcher.find() || group > matcher.groupCount()) return failed;
  return matcher.group(group) ?? null;
};
var splitPart = (text3, separator, n) => {
  if (n === 0) return failed;
  const parts2 = separator === "" ? [text3] : text3.split(separator);
  return parts2[n > 0 ? n - 1 : parts2.length + n] ?? null;
};
var search = (text3, what, from) => {
  if (from < 1 || from > signs(text3).length + 1) return failed;
  const rest = signs(text3).slice(from - 1).join("");
  const at = lower(rest).indexOf(lower(what));
  return at < 0 ? failed : from + Array.from(lower(rest).slice(0, at)).length;
};
var textMore = [
  define({
    name: "PROPER",
    group: "text",
    total: true,
    about: "Each word\u2019s first letter large, the rest small.",
    args: "text:text",
    result: "text",
    call: ([t]) => titleCase(t),
    scripts: {
      sql: ([t = code("")]) => sql`${sqlHelper("title_of")}(${t})`
    },
    examples: [[`PROPER("long ACRE o'neil")`, "Long Acre O'neil"]]
  }),
  define({
    name: "CLEAN",
    group: "text",
    total: true,
    about: "Without the control signs that cannot be printed.",
    args: "text:text",
    result: "text",
    fails: "never",
    call: ([t]) => t.replace(/\p{Cc}/gu, ""),
    examples: [['CLEAN("a" & CHAR(7) & "b" & CHAR(10))', "ab"]]
  }),
  define({
    name: "REPLACE",
    group: "text",
    about: "n characters from a position on, put another text for.",
    args: "text:text start:number n:number new:text",
    result: "text",
    fails: {
      sql: ([, start = code(""), n = code("")]) => sql`trunc(${start}) < 1 or trunc(${n}) < 0`,
      python: () => code("lambda t, s, n, w: int(s) < 1 or int(n) < 0")
    },
    call: ([t, start, n, next]) => whole2(start, 1) < 1 || whole2(n, 0) < 0 ? failed : [...signs(t).slice(0, whole2(start, 1) - 1), next, ...signs(t).slice(whole2(start, 1) - 1 + whole2(n, 0))].join(
      ""
    ),
    examples: [
      ['REPLACE("VAC-2"; 1; 3; "CON")', "CON-2"],
      ['REPLACE("abc"; 2; 0; "-")', "a-bc"],
      ['REPLACE("abc"; 9; 1; "x")', "abcx"],
      ['REPLACE("abc"; 1; 3; "")', ""]
    ]
  }),
  define({
    name: "SEARCH",
    group: "text",
    about: "Where a text first stands in another, from 1, whatever the case.",
    args: "what:text text:text from:number?",
    result: "integer",
    call: ([what, t, from]) => search(t, what, whole2(from, 1)),
    examples: [
      ['SEARCH("PIT"; "Marlpit")', "5"],
      ['SEARCH("x"; "abc")', ""],
      ['SEARCH("A"; "banana"; 3)', "4"]
    ]
  }),
  define({
    name: "EXACT",
    group: "text",
    total: true,
    about: "Whether two texts are the same to the letter.",
    args: "a:text b:text",
    result: "boolean",
    call: ([a, b]) => a === b,
    examples: [
      ['EXACT("a"; "a")', "true"],
      ['EXACT("a"; "A")', "false"],
      ['EXACT("a"; EMPTY)', ""]
    ]
  }),
  define({
    name: "REPT",
    group: "text",
    about: "The text n times over.",
    args: "text:text n:number",
    result: "text",
    fails: { sql: ([, n = code("")]) => sql`trunc(${n}) <> 0`, python: () => code("lambda t, n: int(n) != 0") },
    call: ([t, n]) => whole2(n, 0) < 0 || whole2(n, 0) * t.length > longest3 ? failed : t.repeat(whole2(n, 0)),
    examples: [
      ['REPT("ab"; 3)', "ababab"],
      ['REPT("ab"; 0)', ""],
      ['REPT("ab"; -1)', ""]
    ]
  }),
  character("CHAR", 255),
  codeOf("CODE"),
  codeOf("UNICODE"),
  character("UNICHAR", 1114111),
  define({
    name: "NUMBERVALUE",
    group: "number",
    about: "The number that a text reads as, with the signs that it uses.",
    args: [
      ...args("text:text"),
      {
        name: "decimal",
        need: "text",
        optional: true,
        constant: (value) => typeof value === "string" && Array.from(value).length === 1 ? void 0 : "The decimal sign is one character."
      },
      {
        name: "group",
        need: "text",
        optional: true,
        constant: (value) => value === null || typeof value === "string" && Array.from(value).length <= 1 ? void 0 : "The group sign is one character or none."
      }
    ],
    result: "decimal",
    call: ([t, decimal = ".", group = ","]) => numberReader({ decimal: String(decimal), group: group === null ? "" : String(group) })(t) ?? failed,
    scripts: {
      sql: ([t = code(""), d = sql`${"."}`, g = sql`${","}`]) => sql`${sqlHelper("read_number")}(${t}, ${d}, ${g})`
    },
    examples: [
      ['NUMBERVALUE("1.204,50"; ","; ".")', "1204.5"],
      ['NUMBERVALUE("1 204,5"; ","; " ")', "1204.5"],
      ['NUMBERVALUE("x"; ","; ".")', ""]
    ]
  }),
  define({
    name: "REGEXTEST",
    group: "text",
    about: "Whether a pattern (RE2) is found in the text.",
    args: [...args("text:text"), patternArgument],
    result: "boolean",
    call: ([t, p]) => compilePattern(p, false).test(t),
    scripts: {
      sql: ([t = code("")], _types, [, p]) => sql`(${foundSql(t, String(p))})`,
      python: ([t = code("")], _types, [, p]) => py`${pyHelper("fx_regextest")}(${t}, ${patternPython(String(p))})`
    },
    examples: [
      ['REGEXTEST("VAC-12"; "^[A-Z]+-\\d+$")', "true"],
      ['REGEXTEST("VAC"; "\\d")', "false"],
      ['REGEXTEST(EMPTY; "a")', ""]
    ]
  }),
  define({
    name: "REGEXEXTRACT",
    group: "text",
    about: "What a pattern finds first, or one of its groups.",
    args: [...args("text:text"), patternArgument, groupArgument],
    result: "text",
    fails: {
      sql: ([t = code("")], [, p]) => sql`not ${foundSql(t, String(p))}`,
      python: ([, p]) => py`lambda t, p, g=0: re.search(${patternPython(String(p))}, t) is None`
    },
    call: ([t, p, g = 0]) => extract(t, p, g),
    scripts: {
      sql: ([t = code("")], _types, [, p, g = 0]) => sql`nullif(${partSql(t, String(p), Number(g), false)}, '')`,
      python: ([t = code("")], _types, [, p, g = 0]) => py`${pyHelper("fx_regexextract")}(${t}, ${patternPython(String(p))}, ${Number(g)})`
    },
    examples: [
      ['REGEXEXTRACT("VAC-12 ok"; "\\d+")', "12"],
      ['REGEXEXTRACT("VAC-12"; "([A-Z]+)-(\\d+)"; 2)', "12"],
      ['REGEXEXTRACT("VAC"; "\\d+")', ""]
    ]
  }),
  define({
    name: "REGEXREPLACE",
    group: "text",
    about: "Everything that a pattern finds, put another text for; $1 stands for a group.",
    fails: "never",
    args: [...args("text:text"), patternArgument, { name: "new", need: "text", constant: () => void 0 }],
    result: "text",
    call: ([t, p, put]) => replaceMatches(t, compilePattern(p, false), put ?? ""),
    scripts: {
      sql: ([t = code("")], _types, [, p, put]) => sql`nullif(${replacedSql(t, String(p), String(put ?? ""))}, '')`,
      python: ([t = code("")], _types, [, p, put]) => py`${pyHelper("fx_regexreplace")}(${t}, ${patternPython(String(p))}, ${replacementPython(String(put ?? ""))})`
    },
    examples: [
      ['REGEXREPLACE("a1b22"; "\\d+"; "#")', "a#b#"],
      ['REGEXREPLACE("Ada Moss"; "(\\w+) (\\w+)"; "$2, $1")', "Moss, Ada"],
      ['REGEXREPLACE("12"; "\\d"; "")', ""]
    ]
  }),
  define({
    name: "SPLITPART",
    group: "text",
    about: "The n-th piece between separators, from 1; negative from the end.",
    args: "text:text separator:text n:number",
    result: "text",
    fails: { sql: ([, , n = code("")]) => sql`trunc(${n}) = 0`, python: () => code("lambda t, s, n: int(n) == 0") },
    call: ([t, s, n]) => splitPart(t, s, whole2(n, 0)),
    examples: [
      ['SPLITPART("a-b-c"; "-"; 2)', "b"],
      ['SPLITPART("a-b-c"; "-"; -1)', "c"],
      ['SPLITPART("a--c"; "-"; 2)', ""],
      ['SPLITPART("a"; "-"; 2)', ""],
      ['SPLITPART("a-b"; "-"; 0)', ""]
    ]
  }),
  pad("PADLEFT"),
  pad("PADRIGHT"),
  define({
    name: "ISNUMBER",
    group: "logic",
    about: "Whether a text reads as a number.",
    args: "text:text",
    result: "boolean",
    seesEmpty: true,
    call: ([t]) => t !== null && numberReader()(t) !== null,
    examples: [
      ['ISNUMBER("1,204.50")', "true"],
      ['ISNUMBER("dog")', "false"],
      ["ISNUMBER(EMPTY)", "false"]
    ]
  }),
  define({
    name: "XOR",
    group: "logic",
    about: "Whether an odd number of conditions holds.",
    args: "condition:boolean+",
    result: "boolean",
    call: (cells) => cells.filter((cell) => cell === true).length % 2 === 1,
    examples: [
      ["XOR(TRUE; FALSE)", "true"],
      ["XOR(TRUE; TRUE)", "false"],
      ["XOR(TRUE; EMPTY)", ""]
    ]
  })
];

// core/src/reading/number-pattern.ts
var parted = (pattern2) => {
  const tokens = pattern2.match(/'(?:[^']|'')*'|[#0.,]+|[\s\S]/g) ?? [];
  let before = "";
  let body = "";
  let after = "";
  let factor = 1;
  for (const token of tokens) {
    if (/^[#0.,]+$/.test(token)) {
      if (body !== "") return `\u201C${pattern2}\u201D has digits in two places`;
      body = token;
      continue;
    }
    if (token === "'") return `the quote in \u201C${pattern2}\u201D is not closed`;
    if (token === "%" || token === "\u2030") factor = token === "%" ? 100 : 1e3;
    const choosePlain = () => {
      if (token === "''") return "'";
      if (token.startsWith("'") && token.length > 1) return token.slice(1, -1).replaceAll("''", "'");
      return token;
    };
    const plain4 = choosePlain();
    if (/^[A-Za-z]$/.test(token))
      return `\u201C${token}\u201D means nothing in a pattern for numbers; write text in single quotes`;
    if (body === "") before += plain4;
    else after += plain4;
  }
  return { before, body, after, factor };
};
var halves = (pattern2) => pattern2.match(/(?:'(?:[^']|'')*'|[^;])+/g) ?? [];
var compileNumberPattern = (pattern2) => {
  const [first2 = "", second, third] = halves(pattern2);
  const plus = parted(first2);
  const minus2 = second === void 0 ? void 0 : parted(second);
  if (typeof plus === "string") return { problem: plus };
  if (typeof minus2 === "string") return { problem: minus2 };
  if (third !== void 0) return { problem: `\u201C${pattern2}\u201D has more than two parts` };
  const shape = /^(#?[#,]*)([0,]*)(?:\.(0*)(#*))?$/.exec(plus.body);
  if (!shape || !/[#0]/.test(plus.body) || /,$|,\./.test(plus.body))
    return { problem: `\u201C${pattern2}\u201D has no digits such as 0 or #,##0.00 in it` };
  const whole5 = `${shape[1] ?? ""}${shape[2] ?? ""}`;
  const comma = whole5.lastIndexOf(",");
  return {
    before: plus.before,
    after: plus.after,
    beforeMinus: minus2 ? minus2.before : `-${plus.before}`,
    afterMinus: minus2 ? minus2.after : plus.after,
    leastDigits: (whole5.match(/0/g) ?? []).length,
    leastPlaces: shape[3]?.length ?? 0,
    mostPlaces: (shape[3]?.length ?? 0) + (shape[4]?.length ?? 0),
    group: comma < 0 ? 0 : whole5.length - comma - 1,
    factor: plus.factor
  };
};
var plain = (value) => {
  const [mantissa = "", exponent = "0"] = String(value).split("e");
  const [whole5 = "", fraction = ""] = mantissa.split(".");
  const n = Number(exponent);
  const digits2 = whole5 + fraction;
  const point = whole5.length + n;
  if (point <= 0) return `0.${"0".repeat(-point)}${digits2}`;
  return point >= digits2.length ? digits2 + "0".repeat(point - digits2.length) : `${digits2.slice(0, point)}.${digits2.slice(point)}`;
};
var writeNumber = (value, whole5, pattern2) => {
  const exact = value * pattern2.factor;
  const scaled2 = whole5 && Number.isSafeInteger(exact) ? exact : Number(exact.toPrecision(15));
  const size = roundTo(Math.abs(scaled2), pattern2.mostPlaces);
  const [integral = "0", fraction = ""] = plain(size).split(".");
  const digits2 = (integral === "0" ? "" : integral).padStart(pattern2.leastDigits, "0");
  const grouped = pattern2.group === 0 ? digits2 : digits2.replace(new RegExp(`\\B(?=(?:.{${pattern2.group}})+$)`, "g"), ",");
  const places3 = fraction.padEnd(pattern2.leastPlaces, "0");
  const body = `${grouped === "" && places3 === "" ? "0" : grouped}${places3 === "" ? "" : `.${places3}`}`;
  return scaled2 < 0 && size !== 0 ? `${pattern2.beforeMinus}${body}${pattern2.afterMinus}` : `${pattern2.before}${body}${pattern2.after}`;
};

// core/src/formula/functions/written.ts
var isMoment = (type) => type === "date" || type === "datetime" || type === "time";
var large = (text3) => `${capital(text3)}.`;
var dayLetters = /^[yMdE]/;
var patternProblem3 = (value, [type]) => {
  const pattern2 = String(value ?? "");
  if (!isMoment(type)) {
    const compiled5 = compileNumberPattern(pattern2);
    return "problem" in compiled5 ? `The value is a number: ${compiled5.problem}.` : void 0;
  }
  const compiled4 = compileDatePattern(pattern2);
  if ("problem" in compiled4) return large(compiled4.problem);
  const day = datePatternParts(pattern2).find((part2) => dayLetters.test(part2));
  return type === "time" && day !== void 0 ? `A time of day has no ${day}; hours are HH, minutes mm.` : void 0;
};
var padded = (n, letters3) => String(n).padStart(letters3.length, "0");
var writePart = (letters3, day, ms) => {
  const { year: year2, month, day: dayOfMonth } = civilFromDays(day);
  const hour = Math.floor(ms / 36e5);
  const name2 = letters3[0] === "M" ? monthNames2[month - 1] : dayNames[weekday(day)];
  switch (letters3[0]) {
    case "y":
      if (letters3 === "yy") return padded(year2 % 100, "yy");
      if (letters3 === "y") return String(year2);
      return padded(year2, letters3);
    case "M":
      if (letters3.length <= 2) return padded(month, letters3);
      if (letters3.length === 3) return name2.slice(0, 3);
      return name2;
    case "E":
      return letters3.length <= 3 ? name2.slice(0, 3) : name2;
    case "d":
      return padded(dayOfMonth, letters3);
    case "H":
      return padded(hour, letters3);
    case "h":
      return padded(hour % 12 || 12, letters3);
    case "m":
      return padded(Math.floor(ms / 6e4) % 60, letters3);
    case "s":
      return padded(Math.floor(ms / 1e3) % 60, letters3);
    case "S":
      return String(ms % 1e3).padStart(3, "0").slice(0, letters3.length);
    default:
      return hour < 12 ? "AM" : "PM";
  }
};
var writeMoment = (cell, type, pattern2) => {
  const ms = type === "date" ? cell * dayMs : cell;
  return datePatternParts(pattern2).map((part2) => part2.startsWith("'") ? part2.slice(1) : writePart(part2, dayOf(ms), timeOf(ms))).join("");
};
var compiled3 = /* @__PURE__ */ new Map();
var numberPattern = (pattern2) => {
  let known3 = compiled3.get(pattern2);
  if (!known3) compiled3.set(pattern2, known3 = compileNumberPattern(pattern2));
  return known3;
};
var toChar = {
  yyyy: "YYYY",
  y: "FMYYYY",
  yy: "YY",
  M: "FMMM",
  MM: "MM",
  MMM: "Mon",
  MMMM: "FMMonth",
  d: "FMDD",
  dd: "DD",
  H: "FMHH24",
  HH: "HH24",
  h: "FMHH12",
  hh: "HH12",
  m: "FMMI",
  mm: "MI",
  s: "FMSS",
  ss: "SS",
  S: "MS1",
  SS: "MS2",
  SSS: "MS3",
  a: "AM",
  EEE: "Dy",
  EEEE: "FMDay"
};
var sqlParts = (pattern2) => sql`array[${joined(
  datePatternParts(pattern2).map((part2) => sql`${part2.startsWith("'") ? part2 : ownValue(toChar, part2) ?? ""}`),
  ", "
)}]`;
var sqlMoment = (x, type) => type === "time" ? sql`date '2000-01-01' + ${x}` : sql`${x}::timestamp`;
var numberArguments = ({
  before,
  after,
  beforeMinus,
  afterMinus,
  leastDigits,
  leastPlaces,
  mostPlaces,
  group,
  factor
}) => [before, after, beforeMinus, afterMinus, leastDigits, leastPlaces, mostPlaces, group, factor];
var written2 = [
  define({
    name: "TEXT",
    group: "text",
    about: 'A number, a date or a time as text, written by a pattern such as "#,##0.00" or "dd/MM/yyyy".',
    args: [...args("x:written"), { name: "pattern", need: "text", constant: patternProblem3 }],
    result: "text",
    fails: "never",
    call: ([x, pattern2], [type]) => isMoment(type) ? writeMoment(x, type, String(pattern2)) : writeNumber(x, type === "integer", numberPattern(String(pattern2))),
    scripts: {
      sql: ([x = code("")], [type], [, pattern2]) => isMoment(type) ? sql`${sqlHelper("written_moment")}(${sqlMoment(x, type)}, ${sqlParts(String(pattern2))})` : sql`${sqlHelper("written_number")}(${type === "integer" ? sql`${x}::numeric` : sql`${x}::float8::numeric`}, ${joined(
        numberArguments(numberPattern(String(pattern2))).map((one2) => sql`${one2}`),
        ", "
      )})`,
      python: ([x = code("")], [type], [, pattern2]) => isMoment(type) ? py`${pyHelper("written_moment")}(${x}, ${datePatternParts(String(pattern2))})` : py`${pyHelper("written_number")}(${x}, ${joined(
        numberArguments(numberPattern(String(pattern2))).map((one2) => py`${one2}`),
        ", "
      )})`
    },
    examples: [
      ['TEXT(1234567.891; "#,##0.00")', "1,234,567.89"],
      ['TEXT(0.5; "#.##")', ".5"],
      ['TEXT(7; "000")', "007"],
      ['TEXT(-1204.5; "#,##0.0#;(#,##0.0#)")', "(1,204.5)"],
      ['TEXT(0.1275; "0.0 %")', "12.8 %"],
      ['TEXT(2.675; "0.00")', "2.68"],
      ['TEXT(-0.001; "0.0")', "0.0"],
      ['TEXT(9007199254740991; "#,##0.0")', "9,007,199,254,740,991.0"],
      ['TEXT(1e21; "0")', "1000000000000000000000"],
      ['TEXT(DATE(2031; 5; 2); "dd/MM/yyyy")', "02/05/2031"],
      [`TEXT(DATE(2031; 5; 2); "EEEE d MMMM yy, 'week of' EEE")`, "Friday 2 May 31, week of Fri"],
      ['TEXT(DATETIME(DATE(2031; 5; 2); TIME(13; 5; 9)); "d MMM yyyy h:mm a")', "2 May 2031 1:05 PM"],
      ['TEXT(TIME(0; 7; 3); "HH.mm:ss,SSS")', "00.07:03,000"],
      ['TEXT(EMPTY; "0")', ""]
    ]
  })
];

// core/src/formula/functions/index.ts
var functions = [
  ...logic,
  ...number,
  ...numberMore,
  ...text,
  ...textMore,
  ...written2,
  ...date,
  ...dateMore,
  ...list
];
var byName = new Map(functions.map((one2) => [one2.name, one2]));
byName.set("CONCATENATE", byName.get("CONCAT"));
var functionNamed = (name2) => byName.get(name2);
var shorthandNamed = (name2) => shorthands.find((one2) => one2.name === name2);
var functionNames = [...byName.keys(), ...shorthands.map(({ name: name2 }) => name2)];
var everyFunction = [...functions, ...shorthands];

// core/src/formula/operators.ts
var names = {
  "+": "plus",
  "-": "minus",
  "*": "times",
  "/": "divide",
  "^": "power"
};
var compute = (op, a, b) => {
  if (op === "+") return a + b;
  if (op === "-") return a - b;
  if (op === "*") return a * b;
  if (op === "/") {
    if (b === 0) return NaN;
    return a / b;
  }
  return a ** b;
};
var operand = (part2) => {
  if (typeof part2 === "number") return { values: void 0, constant: part2, empty: void 0 };
  if (part2 === null || typeof part2 !== "object") return void 0;
  return part2.type === "integer" || part2.type === "decimal" ? { values: part2.values, constant: 0, empty: part2.nulls } : void 0;
};
var emptyOf = (a, b) => {
  if (!a || !b) return (a ?? b)?.slice();
  const empty = a.slice();
  for (let i = 0; i < empty.length; i++) empty[i] = empty[i] | b[i];
  return empty;
};
var settle = (values, given, wrong) => {
  const failures = given ? wrong.filter((row) => !isSet(given, row)) : wrong;
  const empty = failures.length > 0 ? given ?? bitmap(values.length) : given;
  for (const row of wrong) values[row] = 0;
  if (empty) for (const row of failures) set(empty, row);
  return { empty, failures };
};
var boundsOfResults = (op, [a, b], limit) => {
  if (!a || !b || op === "^") return void 0;
  const byZero = op === "/" && b.low <= 0 && b.high >= 0;
  const corners = [a.low, a.high].flatMap(
    (left) => (byZero ? [-b.least, b.least] : [b.low, b.high]).map((right) => compute(op, left, right))
  );
  const low = Math.min(...corners);
  const high = Math.max(...corners);
  return low >= -limit && high <= limit ? { low, high, ...byZero ? { failsAtZero: 1 } : {} } : void 0;
};
var powers2 = (a, b, to, limit) => {
  const wrong = new IntList();
  for (let i = 0; i < to.length; i++) {
    to[i] = (typeof a === "number" ? a : a[i]) ** (typeof b === "number" ? b : b[i]) + 0;
    if (!(Math.abs(to[i]) <= limit)) wrong.push(i);
  }
  return wrong.done();
};
var arithmetic3 = (op, whole5) => {
  const result = whole5 && op !== "/" && op !== "^" ? "integer" : "decimal";
  const limit = result === "integer" ? maxInteger : Number.MAX_VALUE;
  return define({
    name: `op_${names[op]}`,
    group: "operator",
    about: "",
    args: "a:number b:number",
    result,
    call: ([a, b]) => {
      const value = compute(op, a, b);
      if (Math.abs(value) <= limit) {
        if (value === 0) return 0;
        return value;
      }
      return failed;
    },
    vector: ([a = null, b = null], _types, rowCount, spare) => {
      const left = operand(a);
      const right = operand(b);
      if (!left || !right || !left.values && !right.values) return void 0;
      const values = spare ?? float64s(rowCount);
      const [x, y] = [left.values ?? left.constant, right.values ?? right.constant];
      const wrong = op === "^" ? powers2(x, y, values, limit) : kernels().arithmetic(op, x, y, values, limit);
      const { empty, failures } = settle(values, emptyOf(left.empty, right.empty), wrong);
      return { column: { type: result, values, nulls: empty }, failures };
    },
    bounds: (args2) => boundsOfResults(op, args2, limit),
    numbers: ([left = 0, right = 0]) => ({ operation: op, left, right }),
    scripts: {
      sql: ([a = code(""), b = code("")]) => {
        if (result === "integer") {
          if (op === "*") return sql`${sqlHelper("whole")}(${a}::numeric * ${b})`;
          return sql`${sqlHelper("whole")}(${a} ${code(op)} ${b})`;
        }
        return sql`${sqlHelper(`op_${names[op]}`)}(${a}, ${b})`;
      },
      python: ([a = code(""), b = code("")]) => py`${pyHelper(`op_${names[op]}`)}(${a}, ${b})`,
      // of what is divided by, one out of range must be empty, not infinite
      pandas: ([a = code(""), b = code("")]) => {
        if (result === "integer" || op === "^") return void 0;
        return op === "/" && b.text.startsWith("(") ? py`${a} / ${pyHelper("finite")}${b}` : py`${a} ${code(op)} ${b}`;
      }
    },
    examples: []
  });
};
var negate = (whole5) => define({
  name: "op_negate",
  group: "operator",
  about: "",
  args: "a:number",
  result: whole5 ? "integer" : "decimal",
  fails: "never",
  call: ([a]) => 0 - a,
  bounds: ([a]) => a && { low: 0 - a.high, high: 0 - a.low, least: a.least },
  numbers: ([right = 0]) => ({ operation: "-", left: 0, right }),
  scripts: {
    sql: ([a = code("")]) => sql`(0 - ${a})`,
    python: ([a = code("")]) => py`${pyHelper("op_minus")}(0, ${a})`
  },
  examples: []
});
var percent = define({
  name: "op_percent",
  group: "operator",
  about: "",
  args: "a:number",
  result: "decimal",
  call: ([a]) => a / 100,
  bounds: ([a]) => a && { low: a.low / 100, high: a.high / 100 },
  numbers: ([left = 0]) => ({ operation: "/", left, right: 100 }),
  scripts: {
    sql: ([a = code("")]) => sql`${sqlHelper("op_divide")}(${a}, 100)`,
    python: ([a = code("")]) => py`${pyHelper("op_divide")}(${a}, 100)`
  },
  examples: []
});
var millis = (cell, type) => type === "datetime" ? cell : cell * dayMs;
var momentDifference = (result) => define({
  name: "op_between",
  group: "operator",
  about: "",
  args: "a:moment b:moment",
  result,
  call: ([a, b], [x, y]) => (millis(a, x) - millis(b, y)) / dayMs,
  scripts: {
    sql: ([a = code(""), b = code("")]) => result === "integer" ? sql`(${a} - ${b})::bigint` : sql`${sqlHelper("op_between")}(${a}, ${b})`,
    python: ([a = code(""), b = code("")]) => py`${pyHelper("op_between")}(${a}, ${b})`
  },
  examples: []
});
var momentShift = (sign2, type) => define({
  name: "op_later",
  group: "operator",
  about: "",
  args: "a:moment n:number",
  result: type,
  call: ([a, n]) => {
    const days4 = n * sign2;
    const next = type === "date" ? a + Math.floor(days4) : a + Math.round(days4 * dayMs);
    return civilRange(type === "date" ? next : dayOf(next)) ? next : failed;
  },
  scripts: {
    sql: ([a = code(""), n = code("")]) => sql`${sqlHelper("op_later")}(${a}, ${sign2 === 1 ? n : sql`-${n}`})`,
    python: ([a = code(""), n = code("")]) => py`${pyHelper("op_later")}(${a}, ${sign2 === 1 ? n : py`${pyHelper("op_minus")}(0, ${n})`})`
  },
  examples: []
});
var words = {
  "=": "equal",
  "<>": "unequal",
  "<": "less",
  "<=": "at_most",
  ">": "more",
  ">=": "at_least"
};
var textOrder2 = compareText(false);
var compareCells = (a, b) => typeof a === "string" ? textOrder2(a, b) : Number(a) - Number(b);
var holds3 = (op, order2) => {
  if (op === "=") return order2 === 0;
  if (op === "<>") return order2 !== 0;
  if (op === "<") return order2 < 0;
  if (op === "<=") return order2 <= 0;
  if (op === ">") return order2 > 0;
  return order2 >= 0;
};
var comparison = (op, type) => {
  const equality = op === "=" || op === "<>";
  return define({
    name: `op_${words[op]}`,
    group: "operator",
    about: "",
    args: "a:any b:any",
    result: "boolean",
    fails: "never",
    total: true,
    ...equality ? { seesEmpty: true } : {},
    call: ([a = null, b = null]) => {
      if (equality) return a === b === (op === "=");
      return holds3(op, compareCells(a, b));
    },
    scripts: {
      sql: ([a = code(""), b = code("")]) => {
        if (equality) return sql`(${a} ${code(op === "=" ? "is not distinct from" : "is distinct from")} ${b})`;
        return type === "text" ? sql`(${sqlHelper("text_order")}(${a}, ${b}) ${code(op)} 0)` : sql`(${a} ${code(op)} ${b})`;
      },
      python: ([a = code(""), b = code("")]) => py`${pyHelper(`op_${words[op]}`)}(${a}, ${b})`
    },
    examples: []
  });
};
var widening = (to) => define({
  name: `as_${to}`,
  group: "operator",
  about: "",
  args: "a:any",
  result: to,
  fails: "never",
  total: true,
  call: ([a]) => to === "datetime" ? a * dayMs : a,
  bounds: ([a]) => a && to === "decimal" ? { low: a.low, high: a.high, least: a.least } : void 0,
  numbers: ([a = 0]) => a,
  vector: ([a = null]) => typeof a === "object" && a?.type === "integer" && to === "decimal" ? { column: { ...a, type: to }, failures: new Int32Array(0) } : void 0,
  scripts: {
    sql: ([a = code("")]) => sql`${a}::${code(to === "decimal" ? "float8" : "timestamp")}`,
    python: ([a = code("")]) => py`${pyHelper(`as_${to}`)}(${a})`
  },
  examples: []
});

// core/src/formula/lex.ts
var patterns = [
  ["blank", /(?:\s|\/\*[\s\S]*?\*\/)+/uy],
  ["number", /(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)(?:[eE][-+]?[0-9]+)?/uy],
  ["text", /"(?:[^"]|"")*"/uy],
  ["parameter", /\$(?:'(?:[^']|'')*'|[\p{L}\p{N}_]+)/uy],
  ["column", /'(?:[^']|'')*'/uy],
  ["name", /[\p{L}_][\p{L}\p{M}\p{N}_]*/uy],
  ["sign", /<=|>=|<>|[-+*/^&=<>%(),;]/uy]
];
var unquote = (raw, mark) => raw.slice(1, -1).replaceAll(mark + mark, mark);
var valueOf = (kind, raw) => {
  if (kind === "text") return unquote(raw, '"');
  if (kind === "column") return unquote(raw, "'");
  if (kind === "parameter") return raw[1] === "'" ? unquote(raw.slice(1), "'") : raw.slice(1);
  return raw;
};
var refuse = (source, at) => {
  const sign2 = source[at] ?? "";
  const rest = { from: at, to: source.length };
  if (sign2 === '"') throw new FormulaError({ ...rest, code: "unclosed-text" });
  if (sign2 === "'") throw new FormulaError({ ...rest, code: "unclosed-column" });
  if (source.startsWith("/*", at)) throw new FormulaError({ ...rest, code: "unclosed-comment" });
  throw new FormulaError({ from: at, to: at + 1, code: "unknown-sign", sign: sign2 });
};
var lex = (source) => {
  const tokens = [];
  let at = 0;
  scan: while (at < source.length) {
    for (const [kind, pattern2] of patterns) {
      pattern2.lastIndex = at;
      const raw = pattern2.exec(source)?.[0];
      if (!raw || kind === "sign" && source.startsWith("/*", at)) continue;
      if (kind !== "blank") tokens.push({ kind, value: valueOf(kind, raw), from: at, to: at + raw.length });
      at += raw.length;
      continue scan;
    }
    refuse(source, at);
  }
  tokens.push({ kind: "end", value: "", from: source.length, to: source.length });
  return tokens;
};

// core/src/formula/parse.ts
var levels = [
  ["=", "<>", "<", "<=", ">", ">="],
  ["&"],
  ["+", "-"],
  ["*", "/"],
  ["^"]
];
var maxDepth = 200;
var maxTreeDepth = 400;
var mostFormulaCharacters = 1e5;
var Parser = class {
  at = 0;
  depth = 0;
  tokens;
  constructor(tokens) {
    this.tokens = tokens;
  }
  get next() {
    return this.tokens[this.at];
  }
  take() {
    const token = this.next;
    if (token.kind !== "end") this.at++;
    return token;
  }
  maybe(...signs2) {
    return this.next.kind === "sign" && signs2.includes(this.next.value) ? this.take() : void 0;
  }
  /** Where a token is marked as wrong; the end of the formula as one character. */
  placeOf({ from, to }) {
    return { from, to: Math.max(to, from + 1) };
  }
  /** Formula := Level0 end */
  formula() {
    const node = this.level(0);
    if (this.next.kind !== "end")
      throw new FormulaError({ ...this.placeOf(this.next), code: "expected-operator", found: this.next.value });
    return node;
  }
  /** Level(n) := Level(n + 1) (operator of n, Level(n + 1))* */
  level(n) {
    if (++this.depth > maxDepth * levels.length)
      throw new FormulaError({ ...this.placeOf(this.next), code: "too-deep" });
    const operators = levels[n];
    if (!operators) {
      const node = this.postfix();
      this.depth--;
      return node;
    }
    let left = this.level(n + 1);
    for (let sign2 = this.maybe(...operators); sign2; sign2 = this.maybe(...operators)) {
      const right = this.level(n + 1);
      left = { kind: "binary", op: sign2.value, left, right, from: left.from, to: right.to };
    }
    this.depth--;
    return left;
  }
  /** Postfix := Prefix '%'* — the sign before binds tighter than all else */
  postfix() {
    let node = this.prefix();
    for (let sign2 = this.maybe("%"); sign2; sign2 = this.maybe("%"))
      node = { kind: "unary", op: "%", arg: node, from: node.from, to: sign2.to };
    return node;
  }
  /** Prefix := ('-' | '+') Prefix | Primary */
  prefix() {
    const sign2 = this.maybe("-", "+");
    if (!sign2) return this.primary();
    if (++this.depth > maxDepth * levels.length) throw new FormulaError({ ...this.placeOf(sign2), code: "too-deep" });
    const arg = this.prefix();
    this.depth--;
    return { kind: "unary", op: sign2.value, arg, from: sign2.from, to: arg.to };
  }
  /** Primary := number | text | column | parameter | name | name '(' Arguments ')' | '(' Level0 ')' */
  primary() {
    const token = this.take();
    const { from, to, value } = token;
    if (token.kind === "number") return this.number(token);
    if (token.kind === "text") return { kind: "text", value, from, to };
    if (token.kind === "column") return { kind: "column", name: value, from, to };
    if (token.kind === "parameter") return { kind: "parameter", name: value, from, to };
    if (token.kind === "name") return this.named(token);
    if (token.kind === "sign" && value === "(") {
      const inner = this.level(0);
      this.close(token);
      return inner;
    }
    if (token.kind === "end") throw new FormulaError({ ...this.placeOf(token), code: "stops-early" });
    throw new FormulaError({ ...this.placeOf(token), code: "expected-operand", found: value });
  }
  number(token) {
    const value = Number(token.value);
    if (!Number.isFinite(value)) throw new FormulaError({ ...this.placeOf(token), code: "number-too-large" });
    return {
      kind: "number",
      value,
      whole: /^[0-9]+$/.test(token.value) && Number.isSafeInteger(value),
      from: token.from,
      to: token.to
    };
  }
  named({ value, from, to }) {
    if (this.maybe("(")) return this.call(value, from, to);
    const word2 = value.toUpperCase();
    if (word2 === "TRUE" || word2 === "FALSE") return { kind: "boolean", value: word2 === "TRUE", from, to };
    if (word2 === "EMPTY") return { kind: "empty", from, to };
    return { kind: "column", name: value, from, to };
  }
  /** Arguments := (Level0 ((';' | ',') Level0)*)? */
  call(name2, from, to) {
    const args2 = [];
    const close = this.maybe(")");
    if (close) return { kind: "call", name: name2.toUpperCase(), args: args2, from, to: close.to };
    do
      args2.push(this.level(0));
    while (this.maybe(";", ","));
    return { kind: "call", name: name2.toUpperCase(), args: args2, from, to: this.close({ from, to }).to };
  }
  close(opened) {
    const bracket2 = this.maybe(")");
    if (bracket2) return bracket2;
    throw new FormulaError({ ...this.placeOf(this.next.kind === "end" ? opened : this.next), code: "unclosed-bracket" });
  }
};
var parseFormula = (source) => {
  if (source.length > mostFormulaCharacters)
    throw new FormulaError({
      from: mostFormulaCharacters,
      to: source.length,
      code: "too-long",
      most: mostFormulaCharacters
    });
  const node = new Parser(lex(source)).formula();
  checkDepth(node);
  return node;
};
var partsOf2 = (node) => {
  if (node.kind === "unary") return [node.arg];
  if (node.kind === "binary") return [node.left, node.right];
  if (node.kind === "call") return node.args;
  return [];
};
var checkDepth = (root) => {
  let level = [root];
  for (let depth = 1; level.length > 0; depth++) {
    const [first2] = level;
    if (depth > maxTreeDepth && first2)
      throw new FormulaError({
        from: first2.from,
        to: first2.to,
        code: "too-many-parts",
        most: maxTreeDepth
      });
    level = level.flatMap(partsOf2);
  }
};
var writeColumn = (name2) => /^[\p{L}_][\p{L}\p{N}_]*$/u.test(name2) && !/^(true|false|empty)$/i.test(name2) ? name2 : `'${name2.replaceAll("'", "''")}'`;

// core/src/formula/check.ts
var fits = {
  number: ["integer", "decimal"],
  text: ["text"],
  boolean: ["boolean"],
  moment: ["date", "datetime"],
  clock: ["datetime", "time"],
  list: ["list"],
  written: ["integer", "decimal", "date", "datetime", "time"],
  any: ["text", "integer", "decimal", "boolean", "date", "datetime", "time", "list"]
};
var serves = (type, need) => type === "empty" || fits[need].includes(type);
var fail = (at, problem) => {
  throw new FormulaError({ ...problem, from: at.from, to: at.to });
};
var Checker = class {
  columns = /* @__PURE__ */ new Set();
  schema;
  parameters;
  source;
  constructor(schema, parameters, source) {
    this.schema = schema;
    this.parameters = parameters;
    this.source = source;
  }
  text(at) {
    return this.source.slice(at.from, at.to);
  }
  check(node) {
    const { from, to } = node;
    switch (node.kind) {
      case "number":
        return { kind: "constant", value: node.value, type: node.whole ? "integer" : "decimal", from, to };
      case "text":
        return { kind: "constant", value: node.value, type: "text", from, to };
      case "boolean":
        return { kind: "constant", value: node.value, type: "boolean", from, to };
      case "empty":
        return { kind: "constant", value: null, type: "empty", from, to };
      case "column":
        return this.column(node.name, node);
      case "parameter":
        return this.parameter(node.name, node);
      case "unary":
        return this.unary(node.op, node.arg, node);
      case "binary":
        return this.binary(node.op, node.left, node.right, node);
      case "call":
        return this.call(node.name, node.args, node);
    }
  }
  column(name2, at) {
    const field = this.schema.find((one2) => one2.name === name2);
    if (!field) {
      const names3 = this.schema.map((one2) => one2.name);
      return fail(at, { code: "missing-column", column: name2, nearest: nearest(name2, names3) });
    }
    this.columns.add(name2);
    return { kind: "column", name: name2, type: field.type, from: at.from, to: at.to };
  }
  parameter(name2, at) {
    const type = ownValue(this.parameters, name2);
    if (!type) {
      const names3 = Object.keys(this.parameters);
      return fail(at, { code: "missing-parameter", parameter: name2, nearest: nearest(name2, names3) });
    }
    return { kind: "parameter", name: name2, type, from: at.from, to: at.to };
  }
  apply(fn, args2, type, at) {
    return { kind: "call", fn, args: args2, type, from: at.from, to: at.to };
  }
  /** "" as a value is empty; only a text argument takes it as text of no length. */
  value(part2) {
    return part2.kind === "constant" && part2.value === "" ? { ...part2, value: null, type: "empty" } : part2;
  }
  number(part2, operator) {
    if (!serves(part2.type, "number"))
      fail(part2, { code: "not-a-number", part: this.text(part2), type: part2.type, operator });
    return part2;
  }
  unary(op, arg, at) {
    const inner = this.number(this.value(this.check(arg)), op);
    if (inner.kind === "constant" && op === "-" && typeof inner.value === "number")
      return { ...inner, value: 0 - inner.value, from: at.from };
    if (op === "+") return inner;
    return op === "%" ? this.apply(percent, [inner], "decimal", at) : this.apply(negate(inner.type === "integer"), [inner], inner.type === "integer" ? "integer" : "decimal", at);
  }
  // eslint-disable-next-line complexity -- one branch for each pair of operand types
  binary(op, leftNode, rightNode, at) {
    const left = this.value(this.check(leftNode));
    const right = this.value(this.check(rightNode));
    if (op === "&") return this.apply(functionNamed("CONCAT"), [left, right], "text", at);
    if (op === "=" || op === "<>" || op === "<" || op === "<=" || op === ">" || op === ">=")
      return this.comparison(op, left, right, at);
    const moments = serves(left.type, "moment") && left.type !== "empty";
    if (op === "-" && moments && serves(right.type, "moment") && right.type !== "empty") {
      const result = left.type === "date" && right.type === "date" ? "integer" : "decimal";
      return this.apply(momentDifference(result), [left, right], result, at);
    }
    if (op === "+" && left.type === "date" && right.type === "time") return this.dateWithTime(left, right, at);
    if (op === "+" && left.type === "time" && right.type === "date") return this.dateWithTime(right, left, at);
    if ((op === "+" || op === "-") && moments)
      return this.shift(op === "+" ? 1 : -1, left, this.number(right, `${op} after a date`), at);
    if (op === "+" && serves(right.type, "moment") && right.type !== "empty")
      return this.shift(1, right, this.number(left, "+ before a date"), at);
    this.number(left, op);
    this.number(right, op);
    const fn = arithmetic3(op, left.type !== "decimal" && right.type !== "decimal");
    return this.apply(fn, [left, right], fn.result, at);
  }
  dateWithTime(date2, time, at) {
    return this.apply(functionNamed("DATETIME"), [date2, time], "datetime", at);
  }
  shift(sign2, moment, days4, at) {
    const type = moment.type;
    return this.apply(momentShift(sign2, type), [moment, days4], type, at);
  }
  /** A constant text in ISO form is read as what it is compared with. */
  readConstant(part2, other) {
    if (part2.kind !== "constant" || typeof part2.value !== "string") return part2;
    const days4 = maybeIsoDate(part2.value);
    if (other === "date" && days4 !== null) return { ...part2, type: "date", value: days4 };
    const moment = maybeIsoDateTime(part2.value);
    if ((other === "date" || other === "datetime") && moment !== null)
      return { ...part2, type: "datetime", value: moment };
    if (other === "datetime" && days4 !== null) return { ...part2, type: "date", value: days4 };
    const time = maybeIsoTime(part2.value);
    return other === "time" && time !== null ? { ...part2, type: "time", value: time } : part2;
  }
  comparison(op, a, b, at) {
    const left = this.readConstant(a, b.type);
    const right = this.readConstant(b, a.type);
    const type = unify([left.type, right.type]);
    if (!type)
      return fail(right, {
        code: "not-alike",
        left: this.text(left),
        leftType: left.type,
        right: this.text(right),
        rightType: right.type
      });
    return this.apply(comparison(op, type), [this.widen(left, type), this.widen(right, type)], "boolean", at);
  }
  widen(part2, type) {
    if (part2.type === type || part2.type === "empty") return part2;
    return type === "decimal" || type === "datetime" ? this.apply(widening(type), [part2], type, part2) : part2;
  }
  call(name2, nodes, at) {
    const shorthand = shorthandNamed(name2);
    if (shorthand)
      return this.check(
        shorthand.expand(nodes, at) ?? fail(at, { code: "wrong-form", name: shorthand.name, needs: shorthand.needs, count: nodes.length })
      );
    const fn = functionNamed(name2);
    if (!fn) {
      const word2 = { from: at.from, to: at.from + name2.length };
      return fail(word2, { code: "missing-function", name: name2, nearest: nearest(name2, functionNames) });
    }
    const places3 = this.places(fn, nodes.length, at);
    const given = [];
    for (const [i, node] of nodes.entries())
      given.push(
        this.argument(
          fn,
          places3[i],
          this.check(node),
          given.map((part2) => part2.type)
        )
      );
    if (fn.gathers) return this.gathered(fn, given, at);
    if (fn.result !== "same")
      return this.apply(
        fn,
        given,
        typeof fn.result === "string" ? fn.result : fn.result(given.map(({ type: type2 }) => type2)),
        at
      );
    const alike3 = given.slice(fn.sameFrom ?? 0);
    const type = unify(alike3.map((part2) => part2.type));
    if (!type) return fail(at, { code: "result-types", name: fn.name, types: alike3.map((part2) => part2.type) });
    return this.apply(
      fn,
      given.map((part2, i) => i >= (fn.sameFrom ?? 0) ? this.widen(part2, type) : part2),
      type,
      at
    );
  }
  /** Items of one list. */
  gathered(fn, given, at) {
    const type = unify(given.map((part2) => part2.type));
    if (!type) return fail(at, { code: "item-types", name: fn.name, types: given.map((part2) => part2.type) });
    const inner = given.find((part2) => part2.type === "list");
    if (inner) return fail(inner, { code: "list-of-lists", part: this.text(inner) });
    return this.apply(
      fn,
      given.map((part2) => this.widen(part2, type)),
      "list",
      at
    );
  }
  places(fn, count3, at) {
    const least2 = fn.args.filter((arg) => !arg.optional).length;
    const last = fn.args.at(-1);
    const most = last?.rest ? Infinity : fn.args.length;
    if (count3 < least2 || count3 > most) fail(at, { code: "wrong-count", name: fn.name, takes: { least: least2, most }, count: count3 });
    return Array.from({ length: count3 }, (_, i) => fn.args[i] ?? last);
  }
  argument(fn, place, part2, before) {
    const given = place.need === "text" ? part2 : this.value(part2);
    if (!serves(given.type, place.need))
      fail(part2, { code: "wrong-argument", part: this.text(part2), type: part2.type, name: fn.name, needs: place.need });
    if (place.constant) {
      if (given.kind !== "constant") return fail(part2, { code: "not-constant", argument: place.name, name: fn.name });
      const reason2 = place.constant(given.value, before);
      if (reason2) fail(part2, { code: "wrong-constant", reason: reason2 });
    }
    return given;
  }
};
var unify = (types) => {
  const known3 = [...new Set(types.filter((type) => type !== "empty"))];
  const [first2 = "empty", ...others] = known3;
  if (others.length === 0) return first2;
  if (known3.every(isNumber)) return "decimal";
  return known3.every((type) => type === "date" || type === "datetime") ? "datetime" : void 0;
};
var columnType = (type) => type === "empty" ? "text" : type;
var checkFormula = (source, schema, parameters) => {
  try {
    const checker = new Checker(schema, parameters, source);
    const formula = checker.check(parseFormula(source));
    return { formula, type: columnType(formula.type), columns: [...checker.columns] };
  } catch (error) {
    if (error instanceof FormulaError) return { problem: error.problem };
    throw error;
  }
};

// core/src/steps/clean-text/index.ts
import { z as z4 } from "zod";

// core/src/steps/shared/columns.ts
import { z as z3 } from "zod";

// core/src/steps/shared/step-kind.ts
var DataRefused = class extends Error {
};
var defineStep = (kind) => kind;
var slot = (text3, editor, path, choices) => ({
  text: text3,
  editor,
  path,
  ...choices ? { choices } : {}
});
var tableSlot = (table, editor, path, names3) => ({
  text: names3(table),
  editor,
  path,
  table
});

// core/src/steps/shared/columns.ts
var selectorSchema = z3.lazy(
  () => z3.union([
    z3.array(name).min(1),
    z3.strictObject({ all: z3.literal(true) }),
    z3.strictObject({ except: z3.array(name) }),
    z3.strictObject({ like: z3.string().min(1) }),
    z3.strictObject({ type: z3.enum([...columnTypes, "number"]) }),
    z3.strictObject({ from: name, to: name }),
    z3.strictObject({ any: z3.array(selectorSchema).min(1) })
  ])
).meta({ id: "Selector" });
var isList = (selector) => Array.isArray(selector);
var ofType = (type, wanted) => wanted === "number" ? isNumber(type) : type === wanted;
var positionsOf = (selector, schema) => {
  const names3 = schema.map((field) => field.name);
  if (isList(selector)) return selector.map((one2) => names3.indexOf(one2)).filter((at) => at >= 0);
  const every = names3.map((_, i) => i);
  if ("all" in selector) return every;
  if ("except" in selector) return every.filter((i) => !selector.except.includes(names3[i]));
  if ("like" in selector) return every.filter((i) => wildcard(selector.like).test(names3[i]));
  if ("type" in selector) return every.filter((i) => ofType(schema[i].type, selector.type));
  if ("from" in selector) {
    const from = names3.indexOf(selector.from);
    const to = names3.indexOf(selector.to);
    return from < 0 || to < 0 ? [] : every.filter((i) => i >= from && i <= to);
  }
  const meant = new Set(selector.any.flatMap((one2) => positionsOf(one2, schema)));
  return every.filter((i) => meant.has(i));
};
var selected = (selector, schema) => positionsOf(selector, schema).map((i) => schema[i]);
var selectedNames = (selector, schema) => selected(selector, schema).map((field) => field.name);
var bySchema = z3.union([selectorSchema, z3.tuple([])]);
var noKeys = (by) => Array.isArray(by) && by.length === 0;
var keysOf = (by, schema) => noKeys(by) ? [] : [...new Set(selected(by, schema))];
var byWords = (by) => noKeys(by) ? "" : selectorWords(by);
var checkBy = (by, schema, context, ...path) => {
  if (!noKeys(by)) checkSelector(by, schema, context, ...path);
};
var missingColumn2 = (column, schema) => ({
  code: "missing-column",
  column,
  nearest: nearest(
    column,
    schema.map((field) => field.name)
  )
});
var inTable = (context, table) => ({
  ...context,
  report: ((problem, ...path) => {
    if (problem.code !== "missing-column") context.report(problem, ...path);
    else if (!context.tableUnsure(table))
      context.report(
        { code: "unknown-column-of", table: context.names(table), column: problem.column, nearest: problem.nearest },
        ...path
      );
  })
});
var checkColumn = (column, schema, { report }, ...path) => {
  const field = schema.find((one2) => one2.name === column);
  if (!field) report(missingColumn2(column, schema), ...path);
  return field;
};
var checkSelector = (selector, schema, context, ...path) => {
  if (isList(selector)) {
    selector.forEach((column, i) => {
      checkColumn(column, schema, context, ...path, i);
      if (selector.indexOf(column) !== i) context.report({ code: "twice-named", column }, ...path, i);
    });
  } else if ("except" in selector)
    selector.except.forEach((column, i) => checkColumn(column, schema, context, ...path, "except", i));
  else if ("from" in selector) {
    const from = checkColumn(selector.from, schema, context, ...path, "from");
    const to = checkColumn(selector.to, schema, context, ...path, "to");
    if (from && to && schema.indexOf(from) > schema.indexOf(to))
      context.report({ code: "wrong-order", from: from.name, to: to.name }, ...path);
  } else if ("any" in selector) selector.any.forEach((one2, i) => checkSelector(one2, schema, context, ...path, "any", i));
  return selected(selector, schema);
};
var typeNames = {
  number: "number",
  text: "text",
  integer: "whole-number",
  decimal: "decimal",
  boolean: "yes-or-no",
  date: "date",
  datetime: "date-and-time",
  time: "time",
  list: "list"
};
var selectorWords = (selector) => {
  if (isList(selector))
    return selector.length > 6 ? `${selector.slice(0, 4).join(", ")} and ${selector.length - 4} more` : listed(selector);
  if ("all" in selector) return "all columns";
  if ("except" in selector)
    return selector.except.length === 0 ? "all columns" : `all columns but ${selectorWords(selector.except)}`;
  if ("like" in selector) return `the columns like ${quoted(selector.like)}`;
  if ("type" in selector) return `the ${typeNames[selector.type]} columns`;
  if ("from" in selector) return `the columns from ${selector.from} to ${selector.to}`;
  return listed(selector.any.map(selectorWords));
};
var columnsSlot = (selector, ...path) => slot(selectorWords(selector), "columns", path);
var columnNoun = (selector) => {
  if (isList(selector)) {
    if (selector.length === 1) return "the column ";
    return "the columns ";
  }
  return "";
};
var typeIn = (schema, name2) => schema.find((field) => field.name === name2)?.type;
var freeName = (wanted, taken) => {
  if (!taken.includes(wanted)) return wanted;
  let n = 2;
  while (taken.includes(`${wanted} ${n}`)) n++;
  return `${wanted} ${n}`;
};
var placeSchema = { before: name.optional(), after: name.optional() };
var checkPlace = (place, schema, context) => {
  if (place.before !== void 0) checkColumn(place.before, schema, context, "before");
  if (place.after !== void 0) checkColumn(place.after, schema, context, "after");
};
var withField = (schema, field, place) => {
  const at = positionFor(
    place,
    schema.map((one2) => one2.name)
  );
  return [...schema.slice(0, at), field, ...schema.slice(at)];
};
var placePython = (place) => {
  if (place.before !== void 0) return py`, before=${place.before}`;
  if (place.after !== void 0) return py`, after=${place.after}`;
  return code("");
};
var putPandas = (frame, input, name2, { before, after }, cells) => {
  if (before !== void 0) return void 0;
  return after === void 0 || input.some((field) => field.name === name2) ? py`${frame}[${name2}] = ${cells}` : py`${frame} = ${pyHelper("put_after")}(${frame}, ${name2}, ${cells}, ${after})`;
};
var positionFor = (place, names3) => {
  const before = place.before === void 0 ? -1 : names3.indexOf(place.before);
  if (before >= 0) return before;
  const after = place.after === void 0 ? -1 : names3.indexOf(place.after);
  return after >= 0 ? after + 1 : names3.length;
};
var eachColumnPython = (selector, frame, statement) => {
  const [only, ...more] = isList(selector) ? selector : [];
  if (only !== void 0 && more.length === 0) return statement(py`${only}`);
  return lines(py`for c in ${selectorPython(selector, frame)}:`, py`    ${statement(code("c"))}`);
};
var pandasObjects = /* @__PURE__ */ new Set(["date", "datetime", "time", "list"]);
var untoldFields = (schema) => schema.filter(({ type }) => pandasObjects.has(type));
var kindsPython = (fields) => py`{${joined(
  fields.map(({ name: name2, type }) => py`${name2}: ${type}`),
  ", "
)}}`;
var selectorPython = (selector, frame) => {
  if (isList(selector)) return py`${selector}`;
  if ("all" in selector) return py`list(${frame}.columns)`;
  if ("except" in selector) return py`[c for c in ${frame}.columns if c not in ${selector.except}]`;
  if ("like" in selector) return py`${pyHelper("columns_like")}(${frame}, ${selector.like})`;
  if ("type" in selector) return py`${pyHelper("columns_of_type")}(${frame}, ${selector.type})`;
  if ("from" in selector) return py`${pyHelper("columns_between")}(${frame}, ${selector.from}, ${selector.to})`;
  return py`${pyHelper("in_table_order")}(${frame}, ${joined(
    selector.any.map((one2) => selectorPython(one2, frame)),
    " + "
  )})`;
};
var selectColumns = ({ from, output, column }, expressions = {}, tail = code("")) => sql`select ${joined([code('"\xB6"'), ...output.map((field) => ownValue(expressions, field.name) ? sql`${ownValue(expressions, field.name)} as ${column(field.name)}` : column(field.name))], ", ")}\nfrom ${from}${tail}`;
var settle2 = (wanted, before) => {
  const taken = wanted.filter((one2, i) => one2 === before[i]);
  return wanted.map((one2, i) => {
    if (one2 === before[i]) return one2;
    const free = freeName(one2, taken);
    taken.push(free);
    return free;
  });
};
var cellWords = (table, column, row) => {
  const at = table.positionOf(column);
  const cell = at < 0 ? null : table.cell(at, row);
  return cell === null ? "empty" : textOfCell(table.schema[at]?.type ?? "text", cell);
};

// core/src/steps/shared/draft-values.ts
var numbersOf = (columns, schema) => columns.filter((name2) => {
  const type = typeIn(schema, name2);
  return type !== void 0 && isNumber(type);
});
var naming = /(?:^|\b|_)(?:year|quarter|month|week|day|id|code|no|nr|number|ref|key|zip|postcode)$/i;
var measuresOf = (columns, schema) => numbersOf(columns, schema).filter((name2) => typeIn(schema, name2) === "decimal" || !naming.test(name2));
var textsOf3 = (columns, schema) => columns.filter((name2) => typeIn(schema, name2) === "text");
var newName = (name2, schema) => freeName(
  name2,
  schema.map((field) => field.name)
);
var valueOfText = (text3, type) => {
  if (type === "integer" || type === "decimal") return Number(text3);
  if (type === "boolean") return text3 === "true";
  return text3;
};
var shortened = (text3) => text3.length > 18 ? `${text3.slice(0, 16)}\u2026` : text3;

// core/src/steps/clean-text/index.ts
var cleanings = [
  "trim",
  "collapse-spaces",
  "upper",
  "lower",
  "title",
  "strip-digits",
  "strip-letters",
  "strip-punctuation",
  "strip-invisible"
];
var cleaningWords = {
  trim: "take the spaces at the ends off",
  "collapse-spaces": "make each run of spaces one blank",
  upper: "make all letters large",
  lower: "make all letters small",
  title: "make each first letter large",
  "strip-digits": "take digits out",
  "strip-letters": "take letters out",
  "strip-punctuation": "take punctuation out",
  "strip-invisible": "take invisible signs out"
};
var sqlNames = {
  trim: "trim_of",
  "collapse-spaces": "one_space",
  upper: "upper_of",
  lower: "lower_of",
  title: "title_of",
  "strip-digits": "strip_digits",
  "strip-letters": "strip_letters",
  "strip-punctuation": "strip_punctuation",
  "strip-invisible": "strip_invisible"
};
var runs = new RegExp(`[${space}]+`, "g");
var invisible = new RegExp(`(?![${space}])[\\p{Cc}\\p{Cf}]`, "gu");
var clean = {
  trim,
  "collapse-spaces": (text3) => text3.replace(runs, " "),
  upper,
  lower,
  title: titleCase,
  "strip-digits": (text3) => text3.replace(/\p{Nd}/gu, ""),
  "strip-letters": (text3) => text3.replace(/\p{L}/gu, ""),
  "strip-punctuation": (text3) => text3.replace(/\p{P}/gu, ""),
  "strip-invisible": (text3) => text3.replace(invisible, "")
};
var cleanText = defineStep({
  kind: "clean-text",
  verb: "Clean the text",
  words: [
    "clean",
    "trim",
    "spaces",
    "upper case",
    "lower case",
    "title case",
    "capitalise",
    "strip",
    "punctuation",
    "whitespace"
  ],
  params: z4.strictObject({ columns: selectorSchema, do: z4.array(z4.enum(cleanings)).min(1) }),
  drafts: {
    columns: ({ columns, schema }) => {
      const texts = textsOf3(columns, schema);
      return texts.length > 0 ? [{ rank: 150, params: { columns: texts, do: ["trim", "collapse-spaces"] } }] : [];
    }
  },
  sentence: ({ columns, do: acts }) => [
    "In ",
    columnsSlot(columns, "columns"),
    " ",
    slot(listed(acts.map((act) => cleaningWords[act])), "cleanings", ["do"]),
    "."
  ],
  output: ({ columns }, input, context) => {
    for (const field of checkSelector(columns, input, context, "columns"))
      if (field.type !== "text")
        context.report({ code: "wrong-type", column: field.name, type: field.type, needs: "text" }, "columns");
    return input;
  },
  run: ({ columns, do: acts }, table) => {
    let result = table;
    let cellsChanged = 0;
    for (const name2 of selectedNames(columns, table.schema)) {
      const at = table.positionOf(name2);
      const before = table.column(at);
      if (before.type !== "text") throw new Error(`clean-text of ${before.type}`);
      const after = mapText(before, (text3) => acts.reduce((now, act) => clean[act](now), text3));
      for (let i = 0, n = lengthOf(before); i < n; i++) if (cellAt(before, i) !== cellAt(after, i)) cellsChanged++;
      result = result.with(at, name2, after, true);
    }
    return { table: result, lineage: { kind: "same" }, cellsChanged };
  },
  scripts: {
    sql: ({ columns, do: acts }, context) => selectColumns(
      context,
      Object.fromEntries(
        selected(columns, context.input).map((field) => [
          field.name,
          sql`nullif(${acts.reduce((part2, act) => sql`${sqlHelper(sqlNames[act])}(${part2})`, context.column(field.name))}, '')`
        ])
      )
    ),
    python: ({ columns, do: acts }, { frame, plain: plain4 }) => eachColumnPython(columns, frame, (name2) => {
      const cells = py`${frame}[${name2}]`;
      const trims = plain4 && acts.includes("trim") && acts.every((act) => act === "trim" || act === "collapse-spaces");
      if (!trims) return py`${cells} = ${pyHelper("clean_text")}(${cells}, ${acts})`;
      return acts.length > 1 ? py`${cells} = ${pyHelper("trimmed")}(${cells})` : py`${cells} = ${pyHelper("filled_text")}(${cells}.str.strip(${pyHelper("SPACES")}))`;
    })
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column)
});

// core/src/steps/extract/index.ts
import { z as z5 } from "zod";

// core/src/steps/extract/takes.ts
var escaped = (text3) => text3.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
var patternOf = (text3) => (text3.match(/\p{Lu}\p{Ll}+|\p{Lu}+|\p{Ll}+|\d+|\s+|[^\p{L}\d\s]/gu) ?? []).map((run) => {
  if (/^\d/.test(run)) return "\\d+";
  if (/^\p{Lu}\p{Ll}/u.test(run)) return "\\p{Lu}\\p{Ll}+";
  if (/^\p{Lu}/u.test(run)) return "\\p{Lu}+";
  if (/^\p{Ll}/u.test(run)) return "\\p{Ll}+";
  if (/^\s/.test(run)) return "\\s+";
  return escaped(run);
}).join("");
var matches = (pattern2, text3) => {
  const matcher = compilePattern(pattern2, false).matcher(text3);
  const found2 = [];
  while (matcher.find()) found2.push(matcher.group() ?? "");
  return found2;
};
var signBefore = (text3) => /[^\p{L}\p{N}]+$/u.exec(text3)?.[0] ?? Array.from(text3).at(-1) ?? "";
var signAfter = (text3) => /^[^\p{L}\p{N}]+/u.exec(text3)?.[0] ?? Array.from(text3)[0] ?? "";
var takesFor = (text3, from, to) => {
  const part2 = text3.slice(from, to);
  if (part2 === "") return [];
  const [head, tail] = [text3.slice(0, from), text3.slice(to)];
  const ways = [];
  const sides = (sign2, at, make) => {
    if (sign2 === "") return;
    if (text3.indexOf(sign2) === at) ways.push({ take: make(sign2) });
    else if (text3.lastIndexOf(sign2) === at) ways.push({ take: make(sign2), occurrence: "last" });
  };
  const before = signBefore(head);
  const after = signAfter(tail);
  if (from === 0 && tail !== "") sides(after, to, (sign2) => ({ before: sign2 }));
  if (to === text3.length && head !== "") sides(before, from - before.length, (sign2) => ({ after: sign2 }));
  if (head !== "" && tail !== "") {
    if (text3.indexOf(before) === from - before.length && text3.indexOf(after, from) === to)
      ways.push({ take: { between: [before, after] } });
    else if (text3.lastIndexOf(before) === from - before.length && text3.indexOf(after, from) === to)
      ways.push({ take: { between: [before, after] }, occurrence: "last" });
  }
  const pattern2 = patternOf(part2);
  const found2 = matches(pattern2, text3);
  if (found2[0] === part2) ways.push({ take: { pattern: pattern2 } });
  else if (found2.at(-1) === part2) ways.push({ take: { pattern: pattern2 }, occurrence: "last" });
  const length = Array.from(part2).length;
  if (from === 0) ways.push({ take: { first: length } });
  if (to === text3.length) ways.push({ take: { last: length } });
  if (from > 0) ways.push({ take: { from: Array.from(head).length + 1, length } });
  return ways;
};

// core/src/steps/extract/index.ts
var between2 = (text3, a, b, occurrence) => {
  let found2 = "";
  for (let start = text3.indexOf(a); start >= 0; start = text3.indexOf(a, start + 1)) {
    const end = text3.indexOf(b, start + a.length);
    if (end < 0) break;
    found2 = text3.slice(start + a.length, end);
    if (occurrence === "first") break;
  }
  return found2;
};
var taker = (take, occurrence) => {
  const find2 = (text3, what) => occurrence === "first" ? text3.indexOf(what) : text3.lastIndexOf(what);
  if ("before" in take) return (text3) => text3.slice(0, Math.max(0, find2(text3, take.before)));
  if ("after" in take)
    return (text3) => find2(text3, take.after) < 0 ? "" : text3.slice(find2(text3, take.after) + take.after.length);
  if ("between" in take) return (text3) => between2(text3, take.between[0], take.between[1], occurrence);
  if ("first" in take) return (text3) => Array.from(text3).slice(0, take.first).join("");
  if ("last" in take) return (text3) => Array.from(text3).slice(-take.last).join("");
  if ("from" in take)
    return (text3) => Array.from(text3).slice(take.from - 1, take.from - 1 + take.length).join("");
  const compiled4 = compilePattern(take.pattern, false);
  return (text3) => {
    const matcher = compiled4.matcher(text3);
    const group = take.group ?? 0;
    let found2 = "";
    while (matcher.find()) {
      found2 = group <= matcher.groupCount() ? matcher.group(group) ?? "" : "";
      if (occurrence === "first") break;
    }
    return found2;
  };
};
var blankWords = { " ": "blank", "\n": "line break", "	": "tab" };
var signWords = (text3) => ownValue(blankWords, text3) ?? quoted(text3);
var takeWords = (take, occurrence) => {
  const which = `the ${occurrence} `;
  if ("before" in take) return `what stands before ${which}${signWords(take.before)}`;
  if ("after" in take) return `what stands after ${which}${signWords(take.after)}`;
  if ("between" in take)
    return `what stands between ${which}${signWords(take.between[0])} and ${signWords(take.between[1])}`;
  if ("first" in take) return take.first === 1 ? "the first character" : `the first ${take.first} characters`;
  if ("last" in take) return take.last === 1 ? "the last character" : `the last ${take.last} characters`;
  if ("from" in take)
    return `${take.length === 1 ? "a character" : `${take.length} characters`} from the ${take.from}. on`;
  return `${which}match of ${take.pattern}${take.group ? `, its group ${take.group}` : ""}`;
};
var takeSql = (cell, take, occurrence) => {
  if ("before" in take || "after" in take) {
    const what = "before" in take ? take.before : take.after;
    return sql`${sqlHelper("before" in take ? "text_before" : "text_after")}(${cell}, ${what}, ${occurrence === "last"})`;
  }
  if ("between" in take)
    return sql`${sqlHelper("text_between")}(${cell}, ${take.between[0]}, ${take.between[1]}, ${occurrence === "last"})`;
  if ("first" in take) return sql`left(${cell}, ${take.first})`;
  if ("last" in take) return sql`right(${cell}, ${take.last})`;
  if ("from" in take) return sql`substr(${cell}, ${take.from}, ${take.length})`;
  return partSql(cell, take.pattern, take.group ?? 0, occurrence === "last");
};
var takePython = (take) => {
  if ("before" in take) return py`before=${take.before}`;
  if ("after" in take) return py`after=${take.after}`;
  if ("between" in take) return py`between=(${take.between[0]}, ${take.between[1]})`;
  if ("first" in take) return py`first=${take.first}`;
  if ("last" in take) return py`last=${take.last}`;
  if ("from" in take) return py`start=${take.from}, length=${take.length}`;
  return py`pattern=${patternPython(take.pattern)}, group=${take.group ?? 0}`;
};
var nameOf2 = ({ as }, schema) => freeName(
  as,
  schema.map((field) => field.name)
);
var count = z5.number().int().min(1);
var extract2 = defineStep({
  kind: "extract",
  verb: "Take a part of the text\u2026",
  words: [
    "extract",
    "take",
    "substring",
    "before",
    "after",
    "between",
    "left",
    "right",
    "middle",
    "part",
    "pattern",
    "regular expression",
    "code"
  ],
  params: z5.strictObject({
    column: name,
    as: name,
    take: z5.union([
      z5.strictObject({ before: z5.string().min(1) }),
      z5.strictObject({ after: z5.string().min(1) }),
      z5.strictObject({ between: z5.tuple([z5.string().min(1), z5.string().min(1)]) }),
      z5.strictObject({ first: count }),
      z5.strictObject({ last: count }),
      z5.strictObject({ from: count, length: count }),
      z5.strictObject({ pattern: z5.string().min(1), group: z5.number().int().min(0).max(9).optional() })
    ]),
    occurrence: z5.enum(["first", "last"]).optional(),
    ...placeSchema
  }),
  drafts: {
    columns: ({ columns: [column = "", ...more], schema }) => more.length === 0 && typeIn(schema, column) === "text" ? [{ rank: 140, params: { column, as: `${column} part`, take: { before: "-" }, after: column } }] : [],
    part: ({ column, value, from, to }) => {
      const drafts2 = takesFor(value, from, to).map(({ take, occurrence }) => ({
        rank: 10,
        verb: `Take ${takeWords(take, occurrence ?? "first")}`,
        params: { column, as: `${column} part`, take, ...occurrence ? { occurrence } : {}, after: column }
      }));
      return drafts2.filter(({ verb }, i) => drafts2.findIndex((other) => other.verb === verb) === i);
    }
  },
  sentence: ({ column, as, take, occurrence = "first" }) => [
    "Take ",
    slot(takeWords(take, occurrence), "take", []),
    " in ",
    slot(column, "oneColumn", ["column"]),
    " as ",
    slot(as, "name", ["as"]),
    "."
  ],
  output: (params, input, context) => {
    const field = checkColumn(params.column, input, context, "column");
    if (field && field.type !== "text")
      context.report({ code: "wrong-type", column: field.name, type: field.type, needs: "text" }, "column");
    checkPlace(params, input, context);
    if ("pattern" in params.take) {
      const why = patternProblem2(params.take.pattern) ?? groupProblem(params.take.pattern, params.take.group ?? 0);
      if (why) context.report({ code: "bad-pattern", pattern: params.take.pattern, why }, "take", "pattern");
    }
    return withField(input, { name: nameOf2(params, input), type: "text" }, params);
  },
  run: (params, table) => {
    const from = table.named(params.column);
    if (from.type !== "text") throw new Error(`extract from ${from.type}`);
    const made3 = mapText(from, taker(params.take, params.occurrence ?? "first"));
    let missed = 0;
    for (let i = 0, n = lengthOf(from); i < n; i++) if (isNullAt(made3, i) && !isNullAt(from, i)) missed++;
    return {
      table: table.with(positionFor(params, table.names), nameOf2(params, table.schema), made3),
      lineage: { kind: "same" },
      notes: { notFound: missed }
    };
  },
  trace: {
    cells: (params, { before }, column, rows2) => column === nameOf2(params, before.schema) ? [{ column: params.column, rows: rows2 }] : void 0
  },
  scripts: {
    sql: (params, context) => selectColumns(context, {
      [nameOf2(params, context.input)]: sql`nullif(${takeSql(context.column(params.column), params.take, params.occurrence ?? "first")}, '')`
    }),
    python: (params, { frame, input, plain: plain4 }) => (plain4 ? plainPython(params, frame, input) : void 0) ?? py`${frame} = ${pyHelper("put")}(${frame}, ${nameOf2(params, input)}, ${pyHelper("take_part")}(${frame}[${params.column}], ${takePython(params.take)}${params.occurrence === "last" ? code(', occurrence="last"') : code("")}), "text"${placePython(params)})`
  }
});
var takenPattern = (take, last) => {
  if ("before" in take) return `^(${last ? ".*" : ".*?"})${escaped(take.before)}`;
  if ("after" in take) return `${last ? "^.*" : ""}${escaped(take.after)}(.*)`;
  return void 0;
};
var plainPython = (params, frame, input) => {
  const { take, column, occurrence } = params;
  const cells = py`${frame}[${column}].str`;
  const put = (taken) => putPandas(frame, input, nameOf2(params, input), params, py`${pyHelper("filled_text")}(${taken})`);
  if ("first" in take) return put(py`${cells}[:${take.first}]`);
  if ("last" in take) return put(py`${cells}[-${take.last}:]`);
  const pattern2 = takenPattern(take, occurrence === "last");
  return pattern2 === void 0 ? void 0 : put(py`${cells}.extract(${`(?s)${pattern2}`}, expand=False)`);
};
var groupProblem = (pattern2, group) => {
  const groups = compilePattern(pattern2, false).groupCount();
  return group > groups ? `it has ${groups === 0 ? "no groups" : `only ${groups} groups`}` : void 0;
};

// core/src/steps/blank/index.ts
import { z as z7 } from "zod";

// core/src/steps/shared/value.ts
import { z as z6 } from "zod";

// core/src/codegen/literals.ts
var sqlCell = (type, cell) => {
  switch (type) {
    case "text":
    case "list":
      return sql`${cell}`;
    case "boolean":
      return sql`${cell}`;
    case "integer":
      return sql`${cell < 0 ? code(`(${String(cell)})`) : cell}::bigint`;
    case "decimal":
      return sql`${String(cell)}::float8`;
    case "date":
      return sql`date ${formatDate(cell)}`;
    case "datetime":
      return sql`timestamp ${formatDateTime(cell)}`;
    case "time":
      return sql`time ${formatTime(cell)}`;
  }
};
var clock = (ms) => {
  const seconds = Math.floor(ms / 1e3);
  return [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60, ms % 1e3 * 1e3];
};
var calendar = (days4) => {
  const { year: year2, month, day } = civilFromDays(days4);
  return [year2, month, day];
};
var numbers2 = (all) => code(all.join(", "));
var pythonCell = (type, cell) => {
  switch (type) {
    case "text":
    case "list":
    case "boolean":
    case "integer":
      return py`${cell}`;
    case "decimal":
      return Number.isInteger(cell) && Math.abs(cell) < 1e21 ? py`${cell}.0` : py`${cell}`;
    case "date":
      return py`datetime.date(${numbers2(calendar(cell))})`;
    case "datetime":
      return py`datetime.datetime(${numbers2([...calendar(dayOf(cell)), ...clock(timeOf(cell))])})`;
    case "time":
      return py`datetime.time(${numbers2(clock(cell))})`;
  }
};

// core/src/steps/shared/value.ts
var valueSchema = z6.union([
  z6.string(),
  z6.number(),
  z6.boolean(),
  z6.null(),
  z6.strictObject({ column: z6.string().min(1) }),
  z6.strictObject({ parameter: z6.string().min(1) })
]).meta({ id: "Value" });
var isColumnValue = (value) => typeof value === "object" && value !== null && "column" in value;
var isParameterValue = (value) => typeof value === "object" && value !== null && "parameter" in value;
var cellFor = (value, type) => {
  if (value === null || value === "") return null;
  if (typeof value === "boolean") return type === "boolean" ? value : void 0;
  if (typeof value === "number")
    return type === "decimal" || type === "integer" && Number.isFinite(value) ? value : void 0;
  if (type === "text") return value;
  if (type === "list") return listCell(value);
  const chooseRead = () => {
    if (type === "date") return maybeIsoDate(value);
    if (type === "datetime") return maybeIsoDateTime(value) ?? atMidnight(value);
    if (type === "time") return maybeIsoTime(value);
    return null;
  };
  const read2 = chooseRead();
  return read2 ?? void 0;
};
var listCell = (text3) => {
  try {
    const items2 = JSON.parse(text3);
    const plain4 = Array.isArray(items2) && items2.every((item) => item === null || typeof item !== "object");
    return plain4 ? listText(items2) : void 0;
  } catch {
    return void 0;
  }
};
var atMidnight = (text3) => {
  const days4 = maybeIsoDate(text3);
  return days4 === null ? null : days4 * 864e5;
};
var comparable = (a, b) => a === b || isNumber(a) && isNumber(b) || (a === "date" || a === "datetime") && (b === "date" || b === "datetime");
var checkValue = (value, column, type, schema, context, ...path) => {
  if (isColumnValue(value)) {
    const other = schema.find((field) => field.name === value.column);
    if (!other) context.report(missingColumn2(value.column, schema), ...path, "column");
    else if (!comparable(type, other.type))
      context.report({ code: "wrong-value", value: value.column, column, type }, ...path);
  } else if (isParameterValue(value)) {
    const other = ownValue(context.parameters, value.parameter);
    if (!other)
      context.report(
        {
          code: "unknown-parameter",
          parameter: value.parameter,
          nearest: nearest(value.parameter, Object.keys(context.parameters))
        },
        ...path
      );
    else if (!comparable(type, other))
      context.report({ code: "wrong-value", value: value.parameter, column, type }, ...path);
  } else if (cellFor(value, type) === void 0)
    context.report({ code: "wrong-value", value: String(value), column, type }, ...path);
};
var assignable = (from, to) => from === to || from === "integer" && to === "decimal" || from === "date" && to === "datetime";
var checkAssigned = (value, column, type, schema, context, ...path) => {
  const chooseFrom = () => {
    if (isColumnValue(value)) return schema.find((field) => field.name === value.column)?.type;
    if (isParameterValue(value)) return ownValue(context.parameters, value.parameter);
    return void 0;
  };
  const from = chooseFrom();
  if (from !== void 0 && !assignable(from, type))
    context.report({ code: "wrong-value", value: plainWords(value), column, type }, ...path);
  else checkValue(value, column, type, schema, context, ...path);
};
var plainWords = (value) => {
  if (isColumnValue(value)) return value.column;
  if (isParameterValue(value)) return value.parameter;
  return value === null || value === "" ? "empty" : String(value);
};
var momentForm = /^\d{4}-\d\d-\d\d(?:[T ]\d\d:\d\d(?::\d\d(?:\.\d+)?)?)?$|^\d\d:\d\d(?::\d\d(?:\.\d+)?)?$/;
var valueWords = (value) => {
  const words3 = plainWords(value);
  if (isParameterValue(value)) return `\u2039${words3}\u203A`;
  if (typeof value === "number") return groupedNumber(words3);
  return typeof value === "string" && value !== "" && !momentForm.test(value) ? quoted(words3) : words3;
};
var literalSql = (value, type) => {
  const cell = cellFor(value, type) ?? null;
  return cell === null ? code("null") : sqlCell(type === "integer" && !Number.isInteger(cell) ? "decimal" : type, cell);
};
var literalPython = (value, type) => {
  const cell = cellFor(value, type) ?? null;
  return cell === null ? py`${null}` : pythonCell(type === "integer" && !Number.isInteger(cell) ? "decimal" : type, cell);
};

// core/src/steps/blank/index.ts
var blank = defineStep({
  kind: "blank",
  verb: "Make values empty",
  words: ["blank", "make empty", "null if", "n/a", "missing", "clear", "remove value"],
  params: z7.strictObject({
    columns: selectorSchema,
    values: z7.array(z7.union([z7.string(), z7.number(), z7.boolean()])).min(1)
  }),
  drafts: {
    cell: ({ column, value, schema }) => {
      const type = typeIn(schema, column);
      if (value === null || type === "list") return [];
      return [{ rank: 6, verb: "Make it empty", params: { columns: [column], values: [valueOfText(value, type)] } }];
    },
    values: ({ column, values, schema }) => {
      const type = typeIn(schema, column);
      const typed = values.map((value) => valueOfText(value, type));
      return [{ rank: 40, verb: "Make them empty", params: { columns: [column], values: typed } }];
    }
  },
  sentence: ({ columns, values }) => [
    "In ",
    columnsSlot(columns, "columns"),
    " make ",
    slot(listed(values.map(valueWords)), "values", ["values"]),
    " empty."
  ],
  output: ({ columns, values }, input, context) => {
    for (const field of checkSelector(columns, input, context, "columns"))
      values.forEach((value, i) => {
        if (cellFor(value, field.type) === void 0)
          context.report(
            { code: "wrong-value", value: String(value), column: field.name, type: field.type },
            "values",
            i
          );
      });
    return input;
  },
  run: ({ columns, values }, table) => {
    let result = table;
    let cellsChanged = 0;
    for (const name2 of selectedNames(columns, table.schema)) {
      const at = table.positionOf(name2);
      const column = table.column(at);
      const gone = new Set(values.map((value) => cellFor(value, column.type) ?? null));
      const writer = columnWriter(column.type, table.rowCount);
      for (let row = 0; row < table.rowCount; row++) {
        const cell = cellAt(column, row);
        if (cell !== null && gone.has(cell)) cellsChanged++;
        else writer.set(row, cell);
      }
      result = result.with(at, name2, writer.done(), true);
    }
    return { table: result, lineage: { kind: "same" }, cellsChanged };
  },
  scripts: {
    sql: ({ columns, values }, context) => selectColumns(
      context,
      Object.fromEntries(
        selected(columns, context.input).map((field) => [
          field.name,
          sql`case when ${context.column(field.name)} in (${joined(
            values.map((value) => literalSql(value, field.type)),
            ", "
          )}) then null else ${context.column(field.name)} end`
        ])
      )
    ),
    python: ({ columns, values }, { frame, input }) => {
      const type = selected(columns, input)[0]?.type ?? "text";
      const pairs = joined(
        values.map((value) => py`(${literalPython(value, type)}, None)`),
        ", "
      );
      return eachColumnPython(
        columns,
        frame,
        (name2) => py`${frame}[${name2}] = ${pyHelper("replace_values")}(${frame}[${name2}], [${pairs}])`
      );
    }
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column)
});

// core/src/steps/shared/trace.ts
var sourcesIn = (columns, rows2) => columns.length === 0 ? [{ rows: rows2 }] : [...new Set(columns)].map((column) => ({ column, rows: rows2 }));

// core/src/formula/evaluate.ts
var none = new Int32Array(0);
var isColumn = (given) => typeof given === "object" && given !== null;
var cellOf = (given, row) => isColumn(given) ? cellAt(given, row) : given;
var mergedRows = (a, b) => {
  if (a.length === 0 || b.length === 0) return a.length === 0 ? b : a;
  const rows2 = int32s(a.length + b.length);
  let n = 0;
  for (let i = 0, k = 0; i < a.length || k < b.length; ) {
    const row = k >= b.length || i < a.length && a[i] <= b[k] ? a[i] : b[k];
    if (a[i] === row) i++;
    if (b[k] === row) k++;
    rows2[n++] = row;
  }
  return rows2.subarray(0, n);
};
var rowsOfBit = (rows2, bits, wanted) => {
  if (!bits) return wanted === 0 ? rows2 : none;
  const found2 = int32s(rows2.length);
  let n = 0;
  for (let i = 0; i < rows2.length; i++) {
    const row = rows2[i];
    found2[n] = row;
    n += bits[row >> 3] >> (row & 7) & 1 ^ wanted ^ 1;
  }
  return found2.subarray(0, n);
};
var marked = (marks, rowCount) => {
  const rows2 = new IntList();
  for (let i = 0; i < rowCount; i++) if (isSet(marks, i)) rows2.push(i);
  return rows2.done();
};
var Results = class {
  failures = new IntList();
  writer;
  constructor(type, length) {
    this.writer = rowWriter(type === "empty" ? "text" : type, length);
  }
  set(row, outcome) {
    if (outcome === failed) this.failures.push(row);
    else this.writer.set(row, outcome === "" ? null : outcome);
  }
  done() {
    return { given: this.writer.done(), failures: this.failures.done() };
  }
};
var reader = (column) => {
  if (!isTextColumn(column) || column.form === "dictionary") return (row) => cellAt(column, row);
  const text3 = rowReader(column);
  return (row) => text3(row) || null;
};
var valuesOf = (column) => !isTextColumn(column) && column.values instanceof Float64Array ? column.values : void 0;
var compute2 = (fn, cells, types, clock2) => !fn.seesEmpty && cells.includes(null) ? null : fn.call(cells, types, clock2);
var Evaluator = class {
  table;
  environment;
  codes = /* @__PURE__ */ new Map();
  /** Columns that a vector function made of values of its own. */
  made = /* @__PURE__ */ new Set();
  constructor(table, environment) {
    this.table = table;
    this.environment = environment;
  }
  value(node) {
    if (node.kind === "constant") return { given: node.value, failures: none };
    if (node.kind === "parameter")
      return { given: ownValue(this.environment.parameters, node.name) ?? null, failures: none };
    if (node.kind === "column") return { given: this.table.named(node.name), failures: none };
    if (node.fn.name === "IF") return this.choice(node);
    return node.fn.name === "IFERROR" ? this.instead(node) : this.call(node);
  }
  /** The second value where the first could not be computed; it counts its own failures there. */
  instead(node) {
    const [first2, second] = node.args.map((arg) => this.value(arg));
    if (first2.failures.length === 0) return first2;
    const results = new Results(node.type, this.table.rowCount);
    const failing = bitmap(this.table.rowCount);
    for (const row of first2.failures) set(failing, row);
    for (let i = 0; i < this.table.rowCount; i++)
      results.set(i, cellOf(isSet(failing, i) ? second.given : first2.given, i));
    return { ...results.done(), failures: second.failures.filter((row) => isSet(failing, row)) };
  }
  /** A branch that is not taken does not count its failures. */
  choice(node) {
    const [condition, yes, no2] = node.args.map((arg) => this.value(arg));
    const results = new Results(node.type, this.table.rowCount);
    const counts2 = bitmap(this.table.rowCount);
    const taken = uint8s(this.table.rowCount);
    for (let i = 0; i < this.table.rowCount; i++) {
      taken[i] = cellOf(condition.given, i) === true ? 1 : 0;
      results.set(i, cellOf(taken[i] ? yes.given : no2?.given ?? null, i));
    }
    const { given } = results.done();
    for (const row of condition.failures) if (cellOf(given, row) === null) set(counts2, row);
    for (const row of yes.failures) if (taken[row]) set(counts2, row);
    for (const row of no2?.failures ?? none) if (!taken[row]) set(counts2, row);
    return { given, failures: marked(counts2, this.table.rowCount) };
  }
  call(node) {
    const args2 = node.args.map((arg) => this.value(arg));
    const types = node.args.map((arg) => arg.type);
    const inherited = args2.map(({ failures }) => failures);
    const given = args2.map((arg) => arg.given);
    if (given.every((one2) => !isColumn(one2))) {
      const own3 = this.once(node, given, types);
      return this.reported(own3.given, [...inherited, own3.failures]);
    }
    const spare = this.spare(node, given);
    const fast = node.fn.vector?.(given, types, this.table.rowCount, spare);
    if (fast) {
      const values = valuesOf(fast.column);
      if (values && (values === spare || !given.some((one2) => isColumn(one2) && valuesOf(one2) === values)))
        this.made.add(fast.column);
      return this.reported(fast.column, [...inherited, fast.failures]);
    }
    const most = this.table.rowCount >> 1;
    const codes = codesTogether(given.filter(isColumn), most, (column) => this.codesOfColumn(column, most));
    const own2 = codes ? this.perCode(node, given, types, codes) : this.perRow(node, given, types);
    return this.reported(own2.given, [...inherited, own2.failures]);
  }
  /** The values of an argument that nobody else holds, as they were just computed: the result may be written over them. */
  spare(node, given) {
    for (const [i, one2] of given.entries())
      if (isColumn(one2) && node.args[i]?.kind === "call" && this.made.has(one2)) return valuesOf(one2);
    return void 0;
  }
  codesOfColumn(column, most) {
    const known3 = this.codes.get(column);
    if (known3) return known3;
    const codes = readyCodes(column, most);
    if (codes) this.codes.set(column, codes);
    return codes;
  }
  /** A row whose part failed is a failure where its result is empty: COALESCE(1 / 0; 5) is 5. */
  reported(given, failures) {
    const all = failures.reduce(mergedRows, none);
    if (all.length > 0 && isColumn(given) && !isTextColumn(given))
      return { given, failures: rowsOfBit(all, given.nulls, 1) };
    return { given, failures: all.length === 0 ? all : all.filter((row) => cellOf(given, row) === null) };
  }
  once(node, cells, types) {
    const outcome = compute2(node.fn, cells, types, this.environment);
    if (outcome !== failed) return { given: outcome === "" ? null : outcome, failures: none };
    return { given: null, failures: Int32Array.from({ length: this.table.rowCount }, (_, i) => i) };
  }
  perRow(node, given, types) {
    const results = new Results(node.type, this.table.rowCount);
    const cells = given.map((one2) => isColumn(one2) ? null : one2);
    const columns = given.flatMap((one2, at) => isColumn(one2) ? [{ at, cell: reader(one2) }] : []);
    for (let i = 0; i < this.table.rowCount; i++) {
      for (const { at, cell } of columns) cells[at] = cell(i);
      results.set(i, compute2(node.fn, cells, types, this.environment));
    }
    return results.done();
  }
  /** Once for each code that is met, by the first row that has it. */
  perCode(node, given, types, { codes, bound }) {
    const results = new Results(node.type, bound);
    const first2 = kernels().firstRows({ codes, bound });
    for (let code2 = 0; code2 < bound; code2++)
      if (first2[code2] >= 0) {
        const cells = given.map((one2) => cellOf(one2, first2[code2]));
        results.set(code2, compute2(node.fn, cells, types, this.environment));
      }
    const { given: perCode, failures } = results.done();
    return {
      given: layOut(
        withoutUnmet(perCode, () => first2),
        codes
      ),
      failures: rowsOf2(failures, codes, bound)
    };
  }
};
var withoutUnmet = (perCode, firstRows3) => {
  if (isTextColumn(perCode) || !perCode.nulls) return perCode;
  const first2 = firstRows3();
  for (let code2 = 0; code2 < first2.length; code2++) if (first2[code2] >= 0 && isSet(perCode.nulls, code2)) return perCode;
  return { ...perCode, nulls: void 0 };
};
var rowsOf2 = (failing, codes, bound) => {
  if (failing.length === 0) return none;
  const bad = uint8s(bound);
  for (const code2 of failing) bad[code2] = 1;
  return kernels().rowsOfCodes(codes, bad, 1);
};
var evaluateRows = (formula, type, table, environment) => {
  const { given, failures } = new Evaluator(table, environment).value(formula);
  if (isColumn(given) && lengthOf(given) === table.rowCount) return { column: given, failures };
  const writer = columnWriter(type, table.rowCount);
  for (let i = 0; i < table.rowCount; i++) writer.set(i, given === "" ? null : given);
  return { column: writer.done(), failures };
};
var readsOf = (node) => {
  if (node.kind !== "call") return { columns: node.kind === "column" ? [node.name] : [], byCell: false };
  const args2 = node.args.map(readsOf);
  return {
    columns: [...new Set(args2.flatMap(({ columns }) => columns))],
    byCell: !node.fn.vector || args2.some(({ byCell }) => byCell)
  };
};
var evaluateFormula = (formula, type, table, environment) => {
  const { columns, byCell } = readsOf(formula);
  const codes = byCell ? codesTogether(
    columns.map((name2) => table.named(name2)),
    table.rowCount >> 1,
    readyCodes
  ) : void 0;
  if (!codes) return evaluateRows(formula, type, table, environment);
  const first2 = kernels().firstRows(codes);
  const met = first2.filter((row) => row >= 0);
  const places3 = int32s(codes.bound);
  for (let code2 = 0, place = 0; code2 < codes.bound; code2++) if (first2[code2] >= 0) places3[code2] = place++;
  const positions = columns.map((name2) => table.positionOf(name2));
  const { column, failures } = evaluateRows(formula, type, table.select(positions).rows(met), environment);
  return {
    column: layOut(gather(column, places3), codes.codes),
    failures: rowsOf2(
      failures.map((row) => codes.codes[met[row]]),
      codes.codes,
      codes.bound
    )
  };
};
var codesTogether = (columns, most, codesOfOne) => {
  let all;
  for (const column of columns) {
    const codes = codesOfOne(column, most);
    if (!codes || all && all.bound * codes.bound > most) return void 0;
    all = all ? product(all, codes) : codes;
  }
  return all;
};

// core/src/table/text-search.ts
var findAnywhere = ({ starts, ends: ends2, bytes }, wanted, mask) => {
  const n = mask.length;
  const length = wanted.length;
  const first2 = wanted[0];
  for (let i = 0; i < n; i++) {
    const last = ends2[i] - length;
    for (let at = starts[i]; at <= last; at++) {
      if (bytes[at] !== first2) continue;
      let k = 1;
      while (k < length && bytes[at + k] === wanted[k]) k++;
      if (k < length) continue;
      mask[i] = 1;
      break;
    }
  }
};
var findAt = ({ starts, ends: ends2, bytes }, wanted, mask, fromEnd, whole5) => {
  const n = mask.length;
  const length = wanted.length;
  for (let i = 0; i < n; i++) {
    const size = ends2[i] - starts[i];
    if (size < length || whole5 && size !== length) continue;
    const from = fromEnd ? ends2[i] - length : starts[i];
    let k = 0;
    while (k < length && bytes[from + k] === wanted[k]) k++;
    if (k === length) mask[i] = 1;
  }
};
var encoder = new TextEncoder();
var searchBytes = (column, search2, text3) => {
  const stored = column.type === "text" && column.form === "plain" ? column.stored?.encoded : void 0;
  if (!stored || text3 === "" || /\p{Surrogate}/u.test(text3)) return void 0;
  const encoded2 = { ...stored, bytes: plainBytes(stored.bytes) };
  const mask = uint8s(encoded2.starts.length);
  const wanted = encoder.encode(text3);
  if (search2 === "contains") findAnywhere(encoded2, wanted, mask);
  else findAt(encoded2, wanted, mask, search2 === "ends-with", search2 === "is");
  return mask;
};

// core/src/steps/shared/condition.ts
import { z as z8 } from "zod";
var options = { ignoreCase: z8.boolean().optional(), trim: z8.boolean().optional() };
var equalOps = ["is", "is-not"];
var listOps = ["is-one-of", "is-none-of"];
var textOps = ["contains", "contains-not", "starts-with", "starts-not-with", "ends-with", "matches"];
var orderOps = ["greater", "at-least", "less", "at-most"];
var emptyOps = ["is-empty", "is-filled"];
var conditionOps = [...equalOps, ...listOps, ...textOps, ...orderOps, "between", ...emptyOps];
var valuesOfTest = (test) => {
  if ("values" in test) return test.values;
  if ("from" in test) return [test.from, test.to];
  return "value" in test ? [test.value] : [];
};
var columnsOfValue = (value) => isColumnValue(value) ? [value.column] : [];
var partsOf3 = (condition) => {
  if ("not" in condition) return [condition.not];
  return "all" in condition ? condition.all : condition.any;
};
var conditionSchema = z8.lazy(
  () => z8.union([
    z8.strictObject({
      column: name,
      op: z8.enum([...equalOps, ...textOps, ...orderOps]),
      value: valueSchema,
      ...options
    }),
    z8.strictObject({ column: name, op: z8.enum(listOps), values: z8.array(valueSchema), ...options }),
    z8.strictObject({ column: name, op: z8.literal("between"), from: valueSchema, to: valueSchema, ...options }),
    z8.strictObject({ column: name, op: z8.enum(emptyOps), ...options }),
    z8.strictObject({ all: z8.array(conditionSchema).min(1) }),
    z8.strictObject({ any: z8.array(conditionSchema).min(1) }),
    z8.strictObject({ not: conditionSchema }),
    z8.strictObject({ formula: z8.string().min(1) })
  ])
).meta({ id: "Condition" });
var isTest = (condition) => "column" in condition;
var isTextOp = (op) => textOps.includes(op);
var checkTest = (test, schema, context, path) => {
  const field = checkColumn(test.column, schema, context, ...path, "column");
  if (!field) return;
  const { name: name2, type } = field;
  if (isTextOp(test.op) && type !== "text")
    context.report({ code: "wrong-type", column: name2, type, needs: "text" }, ...path, "column");
  else if ("values" in test)
    test.values.forEach((value, i) => checkValue(value, name2, type, schema, context, ...path, "values", i));
  else if ("from" in test) {
    checkValue(test.from, name2, type, schema, context, ...path, "from");
    checkValue(test.to, name2, type, schema, context, ...path, "to");
  } else if ("value" in test) {
    checkValue(test.value, name2, type, schema, context, ...path, "value");
    const chooseWhy = () => {
      if (test.op !== "matches") return void 0;
      if (typeof test.value === "string") return patternProblem2(test.value);
      return "a pattern is written out, not taken from elsewhere";
    };
    const why = chooseWhy();
    if (why) context.report({ code: "bad-pattern", pattern: String(test.value), why }, ...path, "value");
  }
};
var checkCondition = (condition, schema, context, ...path) => {
  if ("all" in condition) condition.all.forEach((one2, i) => checkCondition(one2, schema, context, ...path, "all", i));
  else if ("any" in condition)
    condition.any.forEach((one2, i) => checkCondition(one2, schema, context, ...path, "any", i));
  else if ("not" in condition) checkCondition(condition.not, schema, context, ...path, "not");
  else if ("formula" in condition) {
    const checked = checkFormula(condition.formula, schema, context.parameters);
    if ("problem" in checked) context.report({ code: "formula", problem: checked.problem }, ...path, "formula");
    else if (checked.type !== "boolean")
      context.report(
        {
          code: "formula",
          problem: { code: "not-a-condition", from: 0, to: condition.formula.length }
        },
        ...path,
        "formula"
      );
  } else checkTest(condition, schema, context, path);
};
var opWords = {
  is: "is",
  "is-not": "is not",
  "is-one-of": "is one of",
  "is-none-of": "is none of",
  contains: "contains",
  "contains-not": "does not contain",
  "starts-with": "starts with",
  "starts-not-with": "does not start with",
  "ends-with": "ends with",
  matches: "matches the pattern",
  greater: "is more than",
  "at-least": "is at least",
  less: "is less than",
  "at-most": "is at most",
  between: "is between",
  "is-empty": "is empty",
  "is-filled": "is filled"
};
var testWords = (test) => {
  const start = `${test.column} ${opWords[test.op]}`;
  const tail = `${test.ignoreCase ? ", whatever the case" : ""}${test.trim ? ", spaces at the ends aside" : ""}`;
  if ("values" in test) return `${start} ${listed(test.values.map(valueWords), "or")}${tail}`;
  if ("from" in test) return `${start} ${valueWords(test.from)} and ${valueWords(test.to)}${tail}`;
  return "value" in test ? `${start} ${valueWords(test.value)}${tail}` : `${start}${tail}`;
};
var conditionWords = (condition, inner = false) => {
  if ("all" in condition)
    return bracket(
      condition.all.map((one2) => conditionWords(one2, true)).join(" and "),
      inner && condition.all.length > 1
    );
  if ("any" in condition)
    return bracket(
      condition.any.map((one2) => conditionWords(one2, true)).join(" or "),
      inner && condition.any.length > 1
    );
  if ("not" in condition) return `not (${conditionWords(condition.not)})`;
  return "formula" in condition ? condition.formula : testWords(condition);
};
var bracket = (text3, needed) => needed ? `(${text3})` : text3;

// core/src/steps/shared/condition-run.ts
var both = (a, b) => {
  for (let i = 0; i < a.length; i++) a[i] = a[i] & b[i];
  return a;
};
var either = (a, b) => {
  for (let i = 0; i < a.length; i++) a[i] = a[i] | b[i];
  return a;
};
var opposite = (a) => {
  for (let i = 0; i < a.length; i++) a[i] = a[i] ^ 1;
  return a;
};
var textOrder3 = compareText(false);
var order = (a, b) => typeof a === "string" ? textOrder3(a, String(b)) : Number(a) - Number(b);
var comparedType = (column, value, table, context) => {
  const chooseOther = () => {
    if (isColumnValue(value)) return table.named(value.column).type;
    if (isParameterValue(value)) return ownValue(context.parameterTypes, value.parameter);
    return void 0;
  };
  const other = chooseOther();
  if (isNumber(column.type)) return "decimal";
  if (column.type === "date" && other === "datetime") return "datetime";
  return column.type;
};
var sideOf = (value, tested, table, context) => {
  const type = comparedType(tested, value, table, context);
  const own2 = tested.type === "date" && type === "datetime" ? dayMs : 1;
  if (isColumnValue(value)) {
    const column = table.named(value.column);
    return { constant: null, column, scale: column.type === "date" && type === "datetime" ? dayMs : 1, own: own2 };
  }
  if (!isParameterValue(value)) return { constant: cellFor(value, type) ?? null, column: void 0, scale: 1, own: own2 };
  const cell = ownValue(context.parameters, value.parameter) ?? null;
  const other = ownValue(context.parameterTypes, value.parameter);
  return {
    constant: typeof cell === "number" && other === "date" && type === "datetime" ? cell * dayMs : cell,
    column: void 0,
    scale: 1,
    own: own2
  };
};
var constantSide = (constant) => ({ constant, column: void 0, scale: 1, own: 1 });
var cellOfSide = (side, row) => {
  if (!side.column) return side.constant;
  const cell = cellAt(side.column, row);
  return typeof cell === "number" ? cell * side.scale : cell;
};
var seenBy = (test) => {
  const cut2 = test.trim ? trim : (text3) => text3;
  return test.ignoreCase ? (text3) => lower(cut2(text3)) : cut2;
};
var compares = {
  is: (a, b) => a === b,
  greater: (a, b) => a !== null && b !== null && order(a, b) > 0,
  "at-least": (a, b) => a !== null && b !== null && order(a, b) >= 0,
  less: (a, b) => a !== null && b !== null && order(a, b) < 0,
  "at-most": (a, b) => a !== null && b !== null && order(a, b) <= 0,
  contains: (a, b) => a !== null && b !== null && String(a).includes(String(b)),
  "starts-with": (a, b) => a !== null && b !== null && String(a).startsWith(String(b)),
  "ends-with": (a, b) => a !== null && b !== null && String(a).endsWith(String(b))
};
var isNothing = (text3) => text3 === "" ? null : text3;
var compareAll = (column, side, compare, see) => {
  const seeCell = (cell) => typeof cell === "string" ? isNothing(see(cell)) : cell;
  if (!side.column) {
    const constant = seeCell(side.constant);
    if (isTextColumn(column)) return testText(column, (text3) => compare(isNothing(see(text3)), constant));
    if (typeof constant === "number" && column.type !== "boolean")
      return compareNumbers(column, constant / side.own, compare);
  }
  const n = lengthOf(column);
  const mask = uint8s(n);
  for (let i = 0; i < n; i++) {
    const cell = seeCell(cellAt(column, i));
    mask[i] = compare(typeof cell === "number" ? cell * side.own : cell, seeCell(cellOfSide(side, i))) ? 1 : 0;
  }
  return mask;
};
var searches = /* @__PURE__ */ new Set(["is", "contains", "starts-with", "ends-with"]);
var inBytes = (column, side, op, test) => {
  const { constant } = side;
  if (side.column || typeof constant !== "string" || !searches.has(op)) return void 0;
  if ("ignoreCase" in test && test.ignoreCase || "trim" in test && test.trim) return void 0;
  return searchBytes(column, op, constant);
};
var compareNumbers = ({ values, nulls }, constant, compare) => {
  const [below, at, above] = [-Infinity, constant, Infinity].map((value) => compare(value, constant));
  const floats = values instanceof Float64Array ? values : new Float64Array(values);
  const mask = kernels().compareFloats(floats, constant, { below, at, above });
  const ofEmpty = compare(null, constant) ? 1 : 0;
  if (nulls) fillSet(mask, nulls, ofEmpty);
  return mask;
};
var opposites = {
  "is-not": "is",
  "contains-not": "contains",
  "starts-not-with": "starts-with"
};
var pattern = (column, test, source) => {
  const compiled4 = compilePattern(source, test.ignoreCase === true);
  const cut2 = test.trim ? trim : (text3) => text3;
  return isTextColumn(column) ? testText(column, (text3) => cut2(text3) !== "" && compiled4.test(cut2(text3))) : uint8s(lengthOf(column));
};
var evaluateTest = (test, table, context) => {
  const column = table.named(test.column);
  const see = seenBy(test);
  const against = (value, op) => {
    const side = sideOf(value, column, table, context);
    return inBytes(column, side, op, test) ?? compareAll(column, side, compares[op], see);
  };
  switch (test.op) {
    case "is-empty":
    case "is-filled": {
      const empty = compareAll(column, constantSide(null), compares.is, see);
      return test.op === "is-empty" ? empty : opposite(empty);
    }
    case "is-one-of":
    case "is-none-of": {
      const any = test.values.reduce(
        (mask, value) => either(mask, against(value, "is")),
        uint8s(table.rowCount)
      );
      return test.op === "is-one-of" ? any : opposite(any);
    }
    case "between":
      return both(against(test.from, "at-least"), against(test.to, "at-most"));
    case "matches":
      return pattern(column, test, String(test.value));
    case "is-not":
    case "contains-not":
    case "starts-not-with":
      return opposite(against(test.value, opposites[test.op] ?? "is"));
    default:
      return against(test.value, test.op);
  }
};
var evaluateCondition = (condition, table, context) => {
  if ("all" in condition) return condition.all.map((one2) => evaluateCondition(one2, table, context)).reduce(both);
  if ("any" in condition) return condition.any.map((one2) => evaluateCondition(one2, table, context)).reduce(either);
  if ("not" in condition) return opposite(evaluateCondition(condition.not, table, context));
  if (!("formula" in condition)) return evaluateTest(condition, table, context);
  const checked = checkFormula(condition.formula, table.schema, context.parameterTypes);
  if ("problem" in checked) throw new FormulaError(checked.problem);
  const { column } = evaluateFormula(checked.formula, "boolean", table, context);
  return compareAll(column, constantSide(true), compares.is, (text3) => text3);
};
var decidingColumn = (condition) => {
  if (isTest(condition)) return valuesOfTest(condition).some(isColumnValue) ? void 0 : condition.column;
  if ("formula" in condition) return void 0;
  const columns = new Set(partsOf3(condition).map(decidingColumn));
  return columns.size === 1 ? [...columns][0] : void 0;
};
var isCoded = (column) => isTextColumn(column) && column.form === "dictionary";
var rowsMeeting = (condition, table, context, holds4) => {
  const wanted = holds4 ? 1 : 0;
  const name2 = decidingColumn(condition);
  const column = name2 === void 0 ? void 0 : table.named(name2);
  if (name2 === void 0 || !column || !isCoded(column) || column.dictionary.length > table.rowCount)
    return kernels().chosenRows(evaluateCondition(condition, table, context), wanted);
  const indices = Uint32Array.from(column.dictionary, (_, code2) => code2);
  const words3 = Table.of([name2], [{ ...column, indices }]);
  return kernels().rowsOfCodes(column.indices, evaluateCondition(condition, words3, context), wanted);
};

// core/src/formula/failing.ts
var constantsOf = (node) => node.args.map((arg) => arg.kind === "constant" ? arg.value : void 0);
var no = code("false");
var pythonNo = code("False");
var some = (parts2, none2) => parts2.filter((part2) => part2.text !== none2.text);
var ownSql = (node, args2) => {
  const { fails, seesEmpty } = node.fn;
  if (fails === "never" || seesEmpty) return no;
  const filled2 = args2.map((arg) => sql`${arg} is not null`);
  return joined([...filled2, ...fails ? [sql`(${fails.sql(args2, constantsOf(node))})`] : []], " and ");
};
var failingSql = (node, write2) => {
  if (node.kind !== "call") return no;
  const inner = node.args.map((arg) => failingSql(arg, write2));
  const name2 = node.fn.name;
  if (name2 === "IFERROR") return some(inner, no).length === 2 ? sql`(${joined(inner, " and ")})` : no;
  const causes = name2 === "IF" ? [
    ...some([inner[0] ?? no], no),
    ...some(inner.slice(1), no).length > 0 ? [sql`case when ${write2(node.args[0])} then ${inner[1] ?? no} else ${inner[2] ?? no} end`] : []
  ] : some([...inner, ownSql(node, node.args.map(write2))], no);
  return causes.length === 0 ? no : sql`(${write2(node)} is null and (${joined(causes, " or ")}))`;
};
var failingPython = (node, write2) => {
  if (node.kind !== "call") return pythonNo;
  const inner = node.args.map((arg) => failingPython(arg, write2));
  const { name: name2, fails, seesEmpty } = node.fn;
  if (name2 === "IFERROR")
    return some(inner, pythonNo).length === 2 ? py`${pyHelper("both_fail")}(${joined(inner, ", ")})` : pythonNo;
  const known3 = some(inner, pythonNo);
  if (name2 === "IF")
    return known3.length === 0 ? pythonNo : py`${pyHelper("failing_branch")}(${write2(node)}, ${write2(node.args[0])}, ${inner[0] ?? pythonNo}, ${inner[1] ?? pythonNo}, ${inner[2] ?? pythonNo})`;
  const never = fails === "never" || seesEmpty === true;
  if (never && known3.length === 0) return pythonNo;
  const chooseOwn = () => {
    if (never) return code("None");
    if (fails) return fails.python(constantsOf(node));
    return code("True");
  };
  const own2 = chooseOwn();
  return py`${pyHelper("failing")}(${write2(node)}, [${joined(known3, ", ")}], [${joined(never ? [] : node.args.map(write2), ", ")}], ${own2})`;
};

// core/src/formula/to-code.ts
var sqlNull = {
  number: code("null::bigint"),
  text: code("null::text"),
  boolean: code("null::boolean"),
  moment: code("null::timestamp"),
  clock: code("null::timestamp"),
  list: code("null::text"),
  written: code("null::float8"),
  any: code("null")
};
var formulaSql = (node, leaves) => {
  if (node.kind === "constant")
    return node.value === null ? code("null") : sqlCell(node.type, node.value);
  if (node.kind === "column") return leaves.column(node.name);
  if (node.kind === "parameter") return leaves.parameter(node.name);
  const args2 = node.args.map((arg, i) => {
    if (arg.type === "empty")
      return node.fn.result === "same" && i >= (node.fn.sameFrom ?? 0) || node.fn.group === "operator" ? emptyOperand(node) : sqlNull[(node.fn.args[i] ?? node.fn.args.at(-1))?.need ?? "any"];
    return formulaSql(arg, leaves);
  });
  if (node.fn.name === "IFERROR") args2.push(failingSql(node.args[0], (part2) => formulaSql(part2, leaves)));
  return node.fn.scripts.sql(
    args2,
    node.args.map((arg) => arg.type),
    constantsOf(node)
  );
};
var sqlTypes = {
  text: "text",
  integer: "bigint",
  decimal: "float8",
  boolean: "boolean",
  date: "date",
  datetime: "timestamp",
  time: "time",
  list: "text",
  empty: "text"
};
var sqlTypeName = (type) => code(sqlTypes[type]);
var emptyOperand = (node) => {
  const other = node.args.find(
    (arg) => arg.type !== "empty" && (node.fn.group === "operator" || arg.type === node.type)
  );
  return sql`null::${sqlTypeName(other?.type ?? node.type)}`;
};
var isOperation = (node) => node.kind === "call" && node.fn.group === "operator";
var formulaPandas = (node, column) => {
  if (node.kind === "column") return column(node.name);
  if (node.kind === "constant")
    return node.value === null ? void 0 : pythonCell(node.type, node.value);
  if (node.kind === "parameter" || node.args.every(({ kind }) => kind === "constant")) return void 0;
  const args2 = node.args.flatMap((arg) => {
    const written5 = formulaPandas(arg, column);
    if (!written5) return [];
    return [isOperation(arg) ? py`(${written5})` : written5];
  });
  if (args2.length < node.args.length) return void 0;
  return node.fn.scripts.pandas?.(
    args2,
    node.args.map((arg) => arg.type),
    constantsOf(node)
  );
};
var formulaPython = (node, leaves) => {
  if (node.kind === "constant")
    return node.value === null ? code("None") : pythonCell(node.type, node.value);
  if (node.kind === "column") return leaves.column(node.name);
  if (node.kind === "parameter") return leaves.parameter(node.name);
  const args2 = node.args.map((arg) => formulaPython(arg, leaves));
  if (node.fn.name === "IFERROR")
    args2.push(failingPython(node.args[0], (part2) => formulaPython(part2, leaves)));
  return node.fn.scripts.python(
    args2,
    node.args.map((arg) => arg.type),
    constantsOf(node)
  );
};

// core/src/steps/shared/condition-code.ts
var checkedFormula = (source, schema, parameters) => {
  const checked = checkFormula(source, schema, parameters);
  if ("problem" in checked) throw new FormulaError(checked.problem);
  return checked;
};
var typeOf = (test, schema) => schema.find((field) => field.name === test.column)?.type ?? "text";
var sqlValue = (value, type, context) => {
  if (isColumnValue(value)) return context.column(value.column);
  if (isParameterValue(value)) return context.parameter(value.parameter);
  return literalSql(value, type);
};
var seenSql = (test, type, part2) => {
  if (type !== "text") return part2;
  const cut2 = test.trim ? sql`nullif(${sqlHelper("trim_of")}(${part2}), '')` : part2;
  return test.ignoreCase ? sql`${sqlHelper("lower_of")}(${cut2})` : cut2;
};
var testSql = (test, context) => {
  const type = typeOf(test, context.input);
  const compared = isNumber(type) ? "decimal" : type;
  const left = seenSql(test, type, context.column(test.column));
  const right = (value) => seenSql(test, type, sqlValue(value, compared, context));
  const ordered2 = (op, value) => type === "text" ? sql`(${sqlHelper("text_order")}(${left}, ${right(value)}) ${code(op)} 0) is true` : sql`(${left} ${code(op)} ${right(value)}) is true`;
  switch (test.op) {
    case "is":
      return sql`${left} is not distinct from ${right(test.value)}`;
    case "is-not":
      return sql`${left} is distinct from ${right(test.value)}`;
    case "is-one-of":
    case "is-none-of": {
      const any = test.values.length === 0 ? code("false") : joined(
        test.values.map((value) => sql`${left} is not distinct from ${right(value)}`),
        " or "
      );
      return test.op === "is-one-of" ? sql`(${any})` : sql`not (${any})`;
    }
    case "contains":
      return sql`(strpos(${left}, ${right(test.value)}) > 0) is true`;
    case "contains-not":
      return sql`(strpos(${left}, ${right(test.value)}) > 0) is not true`;
    case "starts-with":
      return sql`starts_with(${left}, ${right(test.value)}) is true`;
    case "starts-not-with":
      return sql`starts_with(${left}, ${right(test.value)}) is not true`;
    case "ends-with":
      return sql`(right(${left}, char_length(${right(test.value)})) = ${right(test.value)}) is true`;
    case "matches":
      return sql`(${foundSql(test.trim ? sql`${sqlHelper("trim_of")}(${context.column(test.column)})` : context.column(test.column), typeof test.value === "string" ? test.value : "", test.ignoreCase)}) is true`;
    case "greater":
      return ordered2(">", test.value);
    case "at-least":
      return ordered2(">=", test.value);
    case "less":
      return ordered2("<", test.value);
    case "at-most":
      return ordered2("<=", test.value);
    case "between":
      return sql`(${ordered2(">=", test.from)} and ${ordered2("<=", test.to)})`;
    case "is-empty":
      return sql`${left} is null`;
    case "is-filled":
      return sql`${left} is not null`;
  }
};
var conditionSql = (condition, context) => {
  if ("all" in condition)
    return sql`(${joined(
      condition.all.map((one2) => conditionSql(one2, context)),
      " and "
    )})`;
  if ("any" in condition)
    return sql`(${joined(
      condition.any.map((one2) => conditionSql(one2, context)),
      " or "
    )})`;
  if ("not" in condition) return sql`not (${conditionSql(condition.not, context)})`;
  if (isTest(condition)) return testSql(condition, context);
  return sql`(${formulaSql(checkedFormula(condition.formula, context.input, context.parameters).formula, context)}) is true`;
};
var pythonValue = (value, type, context) => {
  if (isColumnValue(value)) return py`${context.frame}[${value.column}]`;
  if (isParameterValue(value)) return context.parameter(value.parameter);
  return literalPython(value, type);
};
var textTests = {
  is: [" == ", ""],
  "is-not": [" != ", ""],
  contains: [".str.contains(", ", regex=False, na=False)"],
  "starts-with": [".str.startswith(", ", na=False)"],
  "ends-with": [".str.endswith(", ", na=False)"]
};
var numberTests = {
  is: "==",
  "is-not": "!=",
  greater: ">",
  "at-least": ">=",
  less: "<",
  "at-most": "<="
};
var isPlainText = (value) => typeof value === "string" && value !== "";
var valueTestPandas = (op, value, type, cell) => {
  const words3 = type === "text" && isPlainText(value) ? ownValue(textTests, op) : void 0;
  if (words3) return py`${cell}${code(words3[0])}${value}${code(words3[1])}`;
  const sign2 = type === "decimal" && typeof value === "number" ? ownValue(numberTests, op) : void 0;
  return sign2 ? py`${cell} ${code(sign2)} ${value}` : void 0;
};
var testPandas = (test, type, cell) => {
  if (test.op === "is-empty") return py`${cell}.isna()`;
  if (test.op === "is-filled") return py`${cell}.notna()`;
  if (test.ignoreCase || test.trim) return void 0;
  if ("value" in test) return valueTestPandas(test.op, test.value, type, cell);
  if (!("values" in test) || type !== "text" || !test.values.every(isPlainText)) return void 0;
  return py`${code(test.op === "is-one-of" ? "" : "~")}${cell}.isin(${test.values})`;
};
var testPython = (test, context) => {
  const type = typeOf(test, context.input);
  const plain4 = context.plain ? testPandas(test, type, py`${context.frame}[${test.column}]`) : void 0;
  if (plain4) return plain4;
  const compared = isNumber(type) ? "decimal" : type;
  const cell = py`${context.frame}[${test.column}]`;
  const options3 = joined(
    [
      ...test.ignoreCase && test.op !== "matches" ? [code("ignore_case=True")] : [],
      ...test.trim ? [code("trim=True")] : []
    ].map((part2) => py`, ${part2}`),
    ""
  );
  const words3 = pyHelper(test.op.replaceAll("-", "_"));
  if ("values" in test)
    return py`${words3}(${cell}, [${joined(
      test.values.map((value) => pythonValue(value, compared, context)),
      ", "
    )}]${options3})`;
  if ("from" in test)
    return py`${pyHelper("between_values")}(${cell}, ${pythonValue(test.from, compared, context)}, ${pythonValue(test.to, compared, context)}${options3})`;
  if (test.op === "is")
    return py`${pyHelper("is_same")}(${cell}, ${pythonValue(test.value, compared, context)}${options3})`;
  if (test.op === "matches")
    return py`${pyHelper("matches")}(${cell}, ${patternPython(typeof test.value === "string" ? test.value : "", test.ignoreCase)}${options3})`;
  return "value" in test ? py`${words3}(${cell}, ${pythonValue(test.value, compared, context)}${options3})` : py`${words3}(${cell}${options3})`;
};
var partPython = (condition, context) => {
  const written5 = conditionPython(condition, context);
  return isTest(condition) && / (?:[=!<>]=|[<>]) /.test(written5.text) ? py`(${written5})` : written5;
};
var conditionPython = (condition, context) => {
  if ("all" in condition)
    return py`(${joined(
      condition.all.map((one2) => partPython(one2, context)),
      " & "
    )})`;
  if ("any" in condition)
    return py`(${joined(
      condition.any.map((one2) => partPython(one2, context)),
      " | "
    )})`;
  if ("not" in condition) return py`~${partPython(condition.not, context)}`;
  if (isTest(condition)) return testPython(condition, context);
  const { formula } = checkedFormula(condition.formula, context.input, context.parameters);
  return py`${pyHelper("holds")}(${context.frame}, ${formulaPython(formula, { column: (column) => py`${context.frame}[${column}]`, parameter: context.parameter })})`;
};

// core/src/steps/shared/trace-conditions.ts
var columnsOfCondition = (condition, table, context) => {
  if (isTest(condition)) return [.../* @__PURE__ */ new Set([condition.column, ...valuesOfTest(condition).flatMap(columnsOfValue)])];
  if ("formula" in condition) return checkedFormula(condition.formula, table.schema, context.parameterTypes).columns;
  return [...new Set(partsOf3(condition).flatMap((one2) => columnsOfCondition(one2, table, context)))];
};
var meets = (condition, table, context, row) => evaluateCondition(condition, table.rows(Int32Array.of(row)), context)[0] === 1;
var deciding = (condition, table, context, row) => {
  if (isTest(condition) || "formula" in condition) return condition;
  if ("not" in condition) return deciding(condition.not, table, context, row);
  const parts2 = "all" in condition ? condition.all : condition.any;
  const wanted = "any" in condition;
  const found2 = parts2.find((part2) => meets(part2, table, context, row) === wanted) ?? parts2[0];
  return found2 ? deciding(found2, table, context, row) : { formula: conditionWords(condition) };
};
var conditionReason = (condition, table, context, row) => {
  const part2 = deciding(condition, table, context, row);
  if ("formula" in part2) {
    const columns = columnsOfCondition(part2, table, context);
    const values = columns.map((column) => `${column} is ${cellWords(table, column, row)}`).join(", ");
    return `${values === "" ? "" : `${values}: `}${part2.formula} is ${meets(part2, table, context, row) ? "so" : "not so"}`;
  }
  const said = `${part2.column} is ${cellWords(table, part2.column, row)}`;
  const byValue = ["is", "is-not", "is-one-of", "is-none-of", "is-empty", "is-filled"].includes(part2.op);
  if (byValue) return said;
  const words3 = conditionWords(part2);
  return meets(part2, table, context, row) ? `${said}: ${words3}` : `${said}, so not ${words3}`;
};

// core/src/steps/cases/index.ts
import { z as z9 } from "zod";

// core/src/steps/shared/condition-values.ts
var textsOfTest = (test) => {
  const chosen = () => {
    if (test.op === "is" || test.op === "is-not") return [test.value];
    return "values" in test ? test.values : [];
  };
  const texts = chosen().filter((value) => typeof value === "string");
  return texts.length > 0 && texts.length === chosen().length ? texts : void 0;
};
var namingTests = (condition, schema, turned = false) => {
  if ("all" in condition) return condition.all.flatMap((one2) => namingTests(one2, schema, turned));
  if ("any" in condition) return condition.any.flatMap((one2) => namingTests(one2, schema, turned));
  if ("not" in condition) return namingTests(condition.not, schema, !turned);
  if (!isTest(condition) || typeIn(schema, condition.column) !== "text") return [];
  const named2 = textsOfTest(condition);
  if (!named2) return [];
  const positive = condition.op === "is" || condition.op === "is-one-of";
  return [{ test: condition, named: named2, unnamedFails: positive !== turned }];
};
var withTexts = (condition, changed2, texts) => {
  if ("all" in condition) return { all: condition.all.map((one2) => withTexts(one2, changed2, texts)) };
  if ("any" in condition) return { any: condition.any.map((one2) => withTexts(one2, changed2, texts)) };
  if ("not" in condition) return { not: withTexts(condition.not, changed2, texts) };
  if (!isTest(condition) || !changed2.has(condition)) return condition;
  const { column, op, ignoreCase, trim: trim2 } = condition;
  return {
    column,
    op: op === "is" || op === "is-one-of" ? "is-one-of" : "is-none-of",
    values: [...textsOfTest(condition) ?? [], ...texts],
    ...ignoreCase === void 0 ? {} : { ignoreCase },
    ...trim2 === void 0 ? {} : { trim: trim2 }
  };
};
var decidingColumns = (condition, schema, unnamed, naming2) => {
  const found2 = {};
  for (const one2 of namingTests(condition, schema)) {
    const key = `${one2.unnamedFails ? "fails" : "passes"} ${one2.test.column}`;
    setOwnValue(found2, key, [...ownValue(found2, key) ?? [], one2]);
  }
  return Object.values(found2).flatMap((tests) => {
    const [first2] = tests;
    if (!first2) return [];
    const { column, ignoreCase, trim: trim2 } = first2.test;
    const changed2 = new Set(tests.map(({ test }) => test));
    return [
      {
        column,
        unnamed: unnamed[first2.unnamedFails ? "fails" : "passes"],
        named: tests.flatMap(({ named: named2 }) => named2),
        ...ignoreCase ? { ignoreCase } : {},
        ...trim2 ? { trim: trim2 } : {},
        ...naming2 ? { naming: (values) => naming2(withTexts(condition, changed2, values)) } : {}
      }
    ];
  });
};

// core/src/steps/cases/index.ts
var valuesOf2 = ({ cases: all, otherwise = null }) => [
  ...all.map(({ then }) => then),
  otherwise
];
var ownType = (value) => {
  if (typeof value === "boolean") return "boolean";
  if (typeof value === "number") {
    if (Number.isInteger(value)) return "integer";
    return "decimal";
  }
  if (typeof value === "string" && value !== "") return "text";
  return void 0;
};
var together = (types) => {
  const all = [...new Set(types)];
  const [first2 = "text"] = all;
  if (all.length <= 1) return first2;
  if (all.every(isNumber)) return "decimal";
  if (all.every((type) => type === "date" || type === "datetime")) return "datetime";
  return first2;
};
var typeOf2 = (params, input, parameters) => {
  const values = valuesOf2(params);
  const given = values.flatMap((value) => {
    const chooseType = () => {
      if (isColumnValue(value)) return input.find((field) => field.name === value.column)?.type;
      if (isParameterValue(value)) return ownValue(parameters, value.parameter);
      if (typeof value === "number") return ownType(value);
      return void 0;
    };
    const type = chooseType();
    return type ? [type] : [];
  });
  if (given.length > 0) return together(given);
  const replaced = input.find((field) => field.name === params.as)?.type;
  if (replaced && values.every((value) => typeof value === "object" || cellFor(value, replaced) !== void 0) && values.some((value) => value !== null && value !== ""))
    return replaced;
  return together(values.flatMap((value) => ownType(value) ?? []));
};
var check = (params, input, context) => {
  params.cases.forEach(({ when }, i) => checkCondition(when, input, context, "cases", i, "when"));
  const type = typeOf2(params, input, context.parameters);
  const paths = [...params.cases.map((_, i) => ["cases", i, "then"]), ["otherwise"]];
  valuesOf2(params).forEach((value, i) => checkAssigned(value, params.as, type, input, context, ...paths[i] ?? []));
  return type;
};
var reader2 = (value, type, column, context) => {
  const scaled2 = (cell, from) => type === "datetime" && from === "date" && typeof cell === "number" ? cell * dayMs : cell;
  if (isColumnValue(value)) {
    const from = column(value.column);
    return (row) => scaled2(cellAt(from, row), from.type);
  }
  const constant = isParameterValue(value) ? scaled2(ownValue(context.parameters, value.parameter) ?? null, ownValue(context.parameterTypes, value.parameter)) : cellFor(value, type) ?? null;
  return () => constant;
};
var caseWords = ({ when, then }) => `${valueWords(then)} where ${conditionWords(when)}`;
var cases = defineStep({
  kind: "cases",
  verb: "Write a value by cases\u2026",
  words: [
    "cases",
    "if",
    "then",
    "else",
    "conditional",
    "band",
    "bucket",
    "bin",
    "category",
    "flag",
    "ladder",
    "when",
    "classify"
  ],
  params: z9.strictObject({
    as: name,
    cases: z9.array(z9.strictObject({ when: conditionSchema, then: valueSchema })).min(1),
    otherwise: valueSchema.optional(),
    ...placeSchema
  }),
  drafts: {
    table: ({ schema }) => [
      {
        rank: 80,
        params: {
          as: newName("Kind", schema),
          cases: [{ when: { column: schema[0]?.name ?? "", op: "is-filled" }, then: "yes" }],
          otherwise: "no"
        }
      }
    ],
    columns: ({ columns, schema }) => [
      {
        rank: 110,
        params: {
          as: newName(columns.length === 1 ? `${columns[0] ?? ""} kind` : "Kind", schema),
          cases: [{ when: { column: columns[0] ?? "", op: "is-filled" }, then: "yes" }],
          otherwise: "no",
          after: columns.at(-1)
        }
      }
    ],
    values: ({ column, values, schema }) => {
      const type = typeIn(schema, column);
      const when = { column, op: "is-one-of", values: values.map((value) => valueOfText(value, type)) };
      return [
        {
          rank: 50,
          verb: "A yes-or-no column for them",
          params: {
            as: newName(`${column} kind`, schema),
            cases: [{ when, then: true }],
            otherwise: false,
            after: column
          }
        }
      ];
    }
  },
  decides: ({ cases: all }, input) => all.flatMap(({ when }) => decidingColumns(when, input, { fails: "stays", passes: "stays" })),
  sentence: (params) => {
    const { as, cases: all, otherwise = null } = params;
    const shown = all.length > 3 ? `${all.slice(0, 2).map(caseWords).join(", ")} and ${counted(all.length - 2, "more case")}` : all.map(caseWords).join(", ");
    return [
      "Write ",
      slot(as, "name", ["as"]),
      " as ",
      slot(`${shown}; else ${otherwise === null || otherwise === "" ? "nothing" : valueWords(otherwise)}`, "cases", []),
      "."
    ];
  },
  output: (params, input, context) => {
    checkPlace(params, input, context);
    const field = { name: params.as, type: check(params, input, context) };
    return input.some(({ name: one2 }) => one2 === params.as) ? input.map((one2) => one2.name === params.as ? field : one2) : withField(input, field, params);
  },
  run: (params, table, context) => {
    const type = typeOf2(params, table.schema, context.parameterTypes);
    const masks = params.cases.map(({ when }) => evaluateCondition(when, table, context));
    const readers2 = valuesOf2(params).map((value) => reader2(value, type, (one2) => table.named(one2), context));
    const writer = columnWriter(type, table.rowCount);
    const met = readers2.map(() => 0);
    for (let row = 0; row < table.rowCount; row++) {
      const found2 = masks.findIndex((mask) => mask[row] === 1);
      const branch = found2 < 0 ? masks.length : found2;
      met[branch] = (met[branch] ?? 0) + 1;
      writer.set(row, readers2[branch]?.(row) ?? null);
    }
    const made3 = writer.done();
    const at = table.positionOf(params.as);
    const notes = Object.fromEntries(met.map((n, i) => [i === masks.length ? "otherwise" : `case${i + 1}`, n]));
    if (at < 0)
      return { table: table.with(positionFor(params, table.names), params.as, made3), lineage: { kind: "same" }, notes };
    const before = table.column(at);
    let cellsChanged = 0;
    for (let i = 0, n = lengthOf(made3); i < n; i++) if (cellAt(before, i) !== cellAt(made3, i)) cellsChanged++;
    return { table: table.with(at, params.as, made3, true), lineage: { kind: "same" }, cellsChanged, notes };
  },
  trace: {
    cells: (params, { before, context }, column, rows2) => column === params.as ? sourcesIn(
      [
        ...params.cases.flatMap(({ when }) => columnsOfCondition(when, before, context)),
        ...valuesOf2(params).flatMap(columnsOfValue)
      ],
      rows2
    ) : void 0
  },
  scripts: {
    sql: (params, context) => {
      const type = typeOf2(params, context.input, context.parameters);
      const value = (one2) => {
        const choosePart = () => {
          if (isColumnValue(one2)) return context.column(one2.column);
          if (isParameterValue(one2)) return context.parameter(one2.parameter);
          return literalSql(one2, type);
        };
        const part2 = choosePart();
        if (type === "decimal") return sql`${part2}::float8`;
        if (type === "datetime") return sql`${part2}::timestamp`;
        if (type === "text" && one2 === null) return sql`null::text`;
        return part2;
      };
      const whens = params.cases.map(({ when, then }) => sql`when ${conditionSql(when, context)} then ${value(then)}`);
      return selectColumns(context, {
        [params.as]: sql`case ${joined(whens, " ")} else ${value(params.otherwise ?? null)} end`
      });
    },
    python: (params, context) => {
      const { frame } = context;
      const type = typeOf2(params, context.input, context.parameters);
      const value = (one2) => {
        if (isColumnValue(one2)) return py`${frame}[${one2.column}]`;
        if (isParameterValue(one2)) return context.parameter(one2.parameter);
        return literalPython(one2, type);
      };
      const branches = params.cases.map(({ when, then }) => py`(${conditionPython(when, context)}, ${value(then)})`);
      return py`${frame} = ${pyHelper("put")}(${frame}, ${params.as}, ${pyHelper("by_cases")}([${joined(branches, ", ")}], ${value(params.otherwise ?? null)}, ${type}), ${type}${placePython(params)})`;
    }
  }
});

// core/src/steps/cast/index.ts
import { z as z10 } from "zod";

// core/src/reading/number-locales.ts
var numberLocales = [
  { locale: plainLocale, example: "1,234.50" },
  { locale: { decimal: ",", group: "." }, example: "1.234,50" },
  { locale: { decimal: ",", group: " " }, example: "1 234,50" },
  { locale: { decimal: ".", group: "'" }, example: "1'234.50" }
];
var commonLocales = numberLocales.map(({ locale }) => locale);
var signWords2 = {
  ".": "a point",
  ",": "a comma",
  " ": "a space",
  "'": "an apostrophe"
};
var signOf = (sign2) => ownValue(signWords2, sign2) ?? `\u201C${sign2}\u201D`;
var isPlain = ({ decimal, group }) => decimal === plainLocale.decimal && group === plainLocale.group;
var localeWords = ({ decimal, group }) => {
  const usual = group === "" || decimal === "," && group === ".";
  return `${signOf(decimal)} before decimals${usual ? "" : ` and ${signOf(group)} between thousands`}`;
};
var bestLocale = (texts, among2 = commonLocales, readerOf2 = numberReader) => {
  let best;
  for (const locale of among2) {
    const read2 = readerOf2(locale);
    const count3 = texts.filter((text3) => read2(text3) !== null).length;
    if (best === void 0 || count3 > best.count) best = { locale, count: count3 };
    if (count3 === texts.length) break;
  }
  return best;
};

// core/src/steps/shared/text-reader.ts
var plainDay = /^(?:dd([-/.])MM\1yyyy|MM([-/.])dd\2yyyy|yyyy([-/.])MM\3dd)$/;
var textReader2 = ({
  type,
  formats: formats2 = [],
  locale
}) => {
  if (locale && !isPlain(locale)) return void 0;
  if (type === "decimal") return pyHelper("read_number");
  if (type === "integer") return pyHelper("read_whole");
  if (type === "boolean") return pyHelper("read_boolean");
  if (type !== "date" || !formats2.every((format) => plainDay.test(format))) return void 0;
  const days4 = joined(
    (formats2.length > 0 ? formats2 : ["yyyy-MM-dd"]).map((format) => py`${format}`),
    ", "
  );
  return py`lambda text: ${pyHelper("read_day")}(text, ${days4})`;
};

// core/src/reading/date-forms.ts
var months = `(?:${monthNames.flatMap((name2) => name2.length > 3 ? [name2, name2.slice(0, 3)] : [name2]).join("|")}|sept)`;
var days3 = "(?:monday|tuesday|wednesday|thursday|friday|saturday|sunday|mon|tue|wed|thu|fri|sat|sun)";
var literal2 = (text3) => /[A-Za-z']/.test(text3) ? `'${text3.replaceAll("'", "''")}'` : text3;
var year = (digits2) => digits2.length === 4 ? "yyyy" : "yy";
var monthFor = (word2) => word2.length > 3 && word2.toLowerCase() !== "sept" ? "MMMM" : "MMM";
var bothWays = (a) => [
  { pattern: a("d", "M"), order: "day" },
  { pattern: a("M", "d"), order: "month" }
];
var templates = [
  [
    /^(\d{4})([-/.]| )(\d{1,2})\2(\d{1,2})(?!\d)/,
    ([, , s = "", m = "", d = ""]) => ({
      patterns: [{ pattern: m.length + d.length === 4 ? `yyyy${s}MM${s}dd` : `yyyy${s}M${s}d` }]
    })
  ],
  [
    /^(\d{1,2})([-/.]| |\. )(\d{1,2})\2(\d{4}|\d{2})(?![\d:])/,
    ([, , s = "", , y = ""]) => ({ patterns: bothWays((a, b) => `${a}${s}${b}${s}${year(y)}`) })
  ],
  [
    new RegExp(
      `^(\\d{1,2})(st|nd|rd|th)?(,? |[-/.]|\\. ?| of )?(${months})(\\.?)(,? |[-/.]|, ?)(\\d{4}|'\\d{2}|\\d{2})(?![\\d:])`,
      "i"
    ),
    ([, , th = "", s = "", m = "", dot = "", t = "", y = ""]) => ({
      patterns: [
        {
          pattern: `d${th ? literal2(th) : ""}${literal2(s)}${monthFor(m)}${dot}${t}${y.startsWith("'") ? "''" : ""}${year(y.replace("'", ""))}`
        }
      ]
    })
  ],
  [
    new RegExp(`^(${months})(\\.?)( |[-/.])(\\d{1,2})(st|nd|rd|th)?(,? |[-/.]|, ?)(\\d{4})(?!\\d)`, "i"),
    ([, m = "", dot = "", s = "", , th = "", t = ""]) => ({
      patterns: [{ pattern: `${monthFor(m)}${dot}${s}d${th ? literal2(th) : ""}${t}yyyy` }]
    })
  ],
  [
    new RegExp(`^(${months})(\\.?)( |[-/.])(\\d{4})(?!\\d)`, "i"),
    ([, m = "", dot = "", s = ""]) => ({ patterns: [{ pattern: `${monthFor(m)}${dot}${s}yyyy` }] })
  ],
  [
    new RegExp(`^(\\d{1,2})(st|nd|rd|th)?(,? |[-/.]|\\. ?| of )?(${months})(\\.?)(?![\\d'])`, "i"),
    ([, , th = "", s = "", m = "", dot = ""]) => ({
      patterns: [{ pattern: `d${th ? literal2(th) : ""}${literal2(s)}${monthFor(m)}${dot}` }],
      noYear: true
    })
  ],
  [
    new RegExp(`^(${months})(\\.?)( |[-/.])(\\d{1,2})(st|nd|rd|th)?(?![\\d:])`, "i"),
    ([, m = "", dot = "", s = "", , th = ""]) => ({
      patterns: [{ pattern: `${monthFor(m)}${dot}${s}d${th ? literal2(th) : ""}` }],
      noYear: true
    })
  ],
  [
    /^(\d{4})(\d{2})(\d{2})(?!\d)/,
    ([, y = ""]) => ({
      patterns: Number(y) >= 1900 && Number(y) < 2100 ? [{ pattern: "yyyyMMdd" }] : [
        { pattern: "ddMMyyyy", order: "day" },
        { pattern: "MMddyyyy", order: "month" }
      ]
    })
  ],
  [
    /^(\d{1,2})([/])(\d{1,2})(?![\d/])/,
    ([, , s = ""]) => ({ patterns: bothWays((a, b) => `${a}${s}${b}`), noYear: true })
  ],
  [/^(\d{1,2})\.(\d{1,2})\.(?!\d)/, () => ({ patterns: [{ pattern: "d.M.", order: "day" }], noYear: true })]
];
var timePattern2 = (text3) => {
  const m = /^(\d{1,2})([:.h])(\d{2})(?:([:.])(\d{2})(?:([.,])(\d{1,3}))?)?( ?)(am|pm|a\.m\.|p\.m\.)?$/i.exec(text3);
  if (m) {
    const [, , s = "", , t, , u, fraction, gap = "", half] = m;
    if (gap !== "" && half === void 0) return void 0;
    return `${half ? "h" : "H"}${literal2(s)}mm${t ? `${t}ss` : ""}${u ? `${u}${"S".repeat(fraction?.length ?? 0)}` : ""}${gap}${half ? "a" : ""}`;
  }
  const hour = /^(\d{1,2})( ?)(?:am|pm|a\.m\.|p\.m\.)$/i.exec(text3);
  if (hour) return `h${hour[2] ?? ""}a`;
  return /^([01]\d|2[0-3])[0-5]\d$/.test(text3) ? "HHmm" : void 0;
};
var readers = /* @__PURE__ */ new Map();
var readerOf = (pattern2, type) => {
  const key = `${type} ${pattern2}`;
  let reader3 = readers.get(key);
  if (!reader3) {
    const compiled4 = compileDatePattern(pattern2);
    readers.set(key, reader3 = "problem" in compiled4 ? () => null : dateReader(compiled4, type));
  }
  return reader3;
};
var reads = (pattern2, type, text3) => readerOf(pattern2, type)(text3) !== null;
var withYear = (pattern2) => `${pattern2} yyyy`;
var formsOf = (raw) => {
  const text3 = trim(raw);
  if (text3.length < 3 || text3.length > 48 || !/\d/.test(text3)) return [];
  const time = timePattern2(text3);
  if (time !== void 0 && reads(time, "time", text3))
    return [{ pattern: time, type: "time", noYear: false, .../[:hap]/i.test(text3) ? {} : { weak: true } }];
  const weekday2 = new RegExp(`^(${days3})(,? +|\\. +)`, "i").exec(text3);
  const before = weekday2 ? `${(weekday2[1]?.length ?? 0) > 3 ? "EEEE" : "EEE"}${weekday2[2] ?? ""}` : "";
  const rest = weekday2 ? text3.slice(weekday2[0].length) : text3;
  for (const [expression, make] of templates) {
    const m = expression.exec(rest);
    if (!m) continue;
    const { patterns: patterns2, noYear } = make(m.map((part2) => part2 ?? ""));
    const tail = rest.slice(m[0].length);
    const gap = /^(?:T|,? +| at | - )?/.exec(tail)?.[0] ?? "";
    const chooseClock = () => {
      if (tail === "") return "";
      if (gap === "") return void 0;
      return timePattern2(tail.slice(gap.length));
    };
    const clock2 = chooseClock();
    if (clock2 === void 0) continue;
    const type = clock2 === "" ? "date" : "datetime";
    const found2 = patterns2.map(({ pattern: pattern2, order: order2 }) => ({
      pattern: `${before}${pattern2}${clock2 === "" ? "" : `${literal2(gap)}${clock2}`}`,
      type,
      ...order2 ? { order: order2 } : {},
      noYear: noYear === true
    })).filter(
      ({ pattern: pattern2, noYear: lacks }) => lacks ? reads(withYear(pattern2), type, `${text3} 2032`) : reads(pattern2, type, text3)
    );
    if (found2.length > 0) return found2;
  }
  return [];
};
var counted3 = (forms) => {
  const found2 = /* @__PURE__ */ new Map();
  for (const { form, word: word2 } of forms) {
    const known3 = found2.get(form.pattern);
    if (known3) known3.rows += word2.count;
    else found2.set(form.pattern, { rows: word2.count, example: word2.text, noYear: form.noYear });
  }
  return [...found2].map(([pattern2, form]) => ({ pattern: pattern2, ...form })).sort((a, b) => b.rows - a.rows);
};
var rowsOf3 = (words3) => words3.reduce((sum, { count: count3 }) => sum + count3, 0);
var commonestYear = (read2) => {
  const rows2 = /* @__PURE__ */ new Map();
  for (const { word: word2, forms } of read2) {
    const [form] = forms;
    const dated = form !== void 0 && !form.noYear && form.type !== "time";
    const days4 = dated ? readerOf(form.pattern, "date")(trim(word2.text)) : null;
    if (days4 === null) continue;
    const { year: found2 } = civilFromDays(days4);
    rows2.set(found2, (rows2.get(found2) ?? 0) + word2.count);
  }
  return [...rows2].sort(([a, n], [b, m]) => m - n || b - a)[0]?.[0];
};
var looked = 400;
var dateFormsIn = (words3) => {
  const sample = words3.slice(0, looked);
  const likely = sample.filter(({ text: text3 }) => formsOf(text3).some(({ weak }) => !weak));
  if (likely.length === 0 || likely.length < sample.length * 0.1) return void 0;
  const all = words3.map((word2) => ({ word: word2, forms: formsOf(word2.text) }));
  const hasTimes = all.some(({ forms }) => forms[0]?.type === "time" && !forms[0].weak);
  const dated = all.filter(({ forms }) => forms.length > 0 && (hasTimes || !forms[0]?.weak));
  const total = rowsOf3(words3);
  if (rowsOf3(dated.map(({ word: word2 }) => word2)) < total * 0.3) return void 0;
  const times2 = dated.filter(({ forms }) => forms[0]?.type === "time");
  const moments = dated.filter(({ forms }) => forms[0]?.type !== "time");
  const chooseType = () => {
    if (times2.length * 2 > dated.length) return "time";
    if (moments.some(({ forms }) => forms[0]?.type === "datetime")) return "datetime";
    return "date";
  };
  const type = chooseType();
  const used2 = type === "time" ? times2 : moments;
  const year2 = commonestYear(used2);
  const ordered2 = used2.filter(({ forms }) => forms[0]?.order !== void 0 && !/^d\.M/.test(forms[0].pattern));
  const only = (order2) => ordered2.filter(({ forms }) => forms.length === 1 && forms[0]?.order === order2);
  const either2 = ordered2.filter(({ forms }) => forms.length > 1 && !sameDay(forms));
  const choose = (order2) => counted3(
    used2.map(({ word: word2, forms }) => ({
      word: word2,
      form: forms.find((form) => form.order === order2) ?? forms[0]
    }))
  );
  const left = all.filter((one2) => !used2.includes(one2)).map(({ word: word2 }) => word2);
  const [dayOnly, monthOnly] = [only("day"), only("month")];
  const question = either2[0] && {
    dayFirst: rowsOf3(dayOnly.map(({ word: word2 }) => word2)),
    monthFirst: rowsOf3(monthOnly.map(({ word: word2 }) => word2)),
    either: rowsOf3(either2.map(({ word: word2 }) => word2)),
    eitherExample: either2[0].word.text,
    ...dayOnly[0] ? { dayExample: dayOnly[0].word.text } : {},
    ...monthOnly[0] ? { monthExample: monthOnly[0].word.text } : {}
  };
  return {
    type,
    day: choose("day"),
    month: choose("month"),
    ...question ? { question } : {},
    ...year2 === void 0 ? {} : { year: year2 },
    left: left.sort((a, b) => b.count - a.count).slice(0, 60),
    leftRows: rowsOf3(left)
  };
};
var sameDay = (forms) => forms.length < 2;
var likelyForms = (forms) => forms.question && forms.question.monthFirst > forms.question.dayFirst ? forms.month : forms.day;

// core/src/steps/shared/reading-fixes.ts
var isoPatterns = {
  date: "yyyy-MM-dd",
  datetime: "yyyy-MM-dd'T'HH:mm:ss",
  time: "HH:mm:ss"
};
var readBy = (texts, read2) => texts.filter((text3) => read2(text3) !== null).length;
var moreDatePatterns = ({
  type,
  formats: formats2,
  year: year2
}, texts) => {
  const iso = isoPatterns[type];
  if (iso === void 0) return void 0;
  const forms = dateFormsIn([...new Set(texts)].map((text3) => ({ text: text3, count: 1 })));
  const there3 = formats2 && formats2.length > 0 ? formats2 : [iso];
  const added = (forms ? likelyForms(forms) : []).filter(({ noYear, pattern: pattern2 }) => (!noYear || year2 !== void 0) && !there3.includes(pattern2)).map(({ pattern: pattern2 }) => pattern2);
  const all = [...there3, ...added];
  const reads2 = readBy(texts, textReader({ type, formats: all, year: year2 }));
  return added.length > 0 && reads2 > 0 ? { formats: all, added, reads: reads2 } : void 0;
};
var otherNumberSigns = (type, locale, texts) => {
  if (type !== "integer" && type !== "decimal") return void 0;
  const others = numberLocales.flatMap(
    ({ locale: one2 }) => one2.decimal === (locale ?? plainLocale).decimal ? [] : [one2]
  );
  const best = bestLocale(texts, others, (one2) => textReader({ type, locale: one2 }));
  return best && best.count > 0 ? { locale: best.locale, reads: best.count } : void 0;
};

// core/src/steps/cast/index.ts
var formatWords = (format) => format.replace(/([A-Za-z])(?!\1)(?=[A-Za-z])(?![a]$)/g, /'/.test(format) ? "$1" : "$1 ").replace(
  /'([^']*)'|([A-Za-z])\2*/g,
  (all, plain4, letter) => plain4 ?? {
    y: "year",
    M: all.length > 2 ? "month name" : "month",
    d: "day",
    H: "hour",
    h: "hour",
    m: "minute",
    s: "second",
    S: "fraction",
    a: "am/pm",
    E: "weekday"
  }[letter ?? ""] ?? all
);
var checkFormats = (formats2, { report }, ...path) => formats2?.forEach((format, i) => {
  const compiled4 = compileDatePattern(format);
  if ("problem" in compiled4) report({ code: "bad-date-pattern", pattern: format, why: compiled4.problem }, ...path, i);
});
var isDated = (type) => type === "date" || type === "datetime" || type === "time";
var readSql = (part2, { type, formats: formats2 = [], locale = plainLocale, year: year2 }) => {
  if (isDated(type)) return sql`${sqlHelper(`read_${type}`)}(${part2}, ${sqlPatterns(formats2, year2)})`;
  if (type === "boolean") return sql`${sqlHelper("read_boolean")}(${part2})`;
  if (type === "text" || type === "list") return part2;
  if (type === "integer") return sql`${sqlHelper("read_integer")}(${part2}, ${locale.decimal}, ${locale.group})`;
  return sql`${sqlHelper("read_number")}(${part2}, ${locale.decimal}, ${locale.group})`;
};
var unreadSql = (cells, from, { made: made3, column }) => {
  const typed = cells.filter(({ kind }) => kind !== "text");
  if (typed.length === 0) return code("");
  const counts2 = typed.map(
    ({ name: name2, kind, text: text3 }) => sql`${sqlHelper("cells_read")}(${name2}, ${kind}, count(${text3}) - (select count(${column(name2)}) from ${made3}))`
  );
  return sql`select array[${joined(counts2, ", ")}] as ignored from ${from} ${psql("gset")}\n`;
};
var convertSql = (part2, from, to) => {
  const { type } = to;
  if (from === type) return part2;
  if (from === "text") return readSql(part2, to);
  if (type === "text") return sql`${sqlHelper("shown")}(${part2})`;
  if (type === "decimal") return from === "boolean" ? sql`(${part2}::int)::float8` : sql`${part2}::float8`;
  if (type === "integer")
    return from === "boolean" ? sql`(${part2}::int)::bigint` : sql`${sqlHelper("to_whole")}(${part2})`;
  if (type === "boolean") return sql`(${part2} <> 0)`;
  return type === "datetime" ? sql`${part2}::timestamp` : sql`${part2}::${code(type)}`;
};
var readOnce = (field, to, { from, column }) => {
  const text3 = column(field.name);
  if (field.type !== "text" || !isDated(to.type)) return { read: convertSql(text3, field.type, to) };
  const texts = column(`\xB6 ${field.name}`);
  return {
    read: sql`${texts}."¶read"`,
    join: sql`\nleft join (select "¶text", ${convertSql(code('"\xB6text"'), "text", to)} as "¶read" from (select distinct ${text3} as "¶text" from ${from}) texts offset 0) ${texts} on ${texts}."¶text" = ${text3}`
  };
};
var wordsFor = ({ type, formats: formats2 }) => {
  if (formats2 && formats2.length > 3)
    return `${formats2.slice(0, 2).map(formatWords).join(", ")} or in ${formats2.length - 2} other forms`;
  if (formats2 && formats2.length > 0) return listed(formats2.map(formatWords), "or");
  if (type === "date") return "year-month-day";
  return "the ISO way";
};
var readsTexts = ({ columns }, input) => Array.isArray(columns) && selected(columns, input).every((field) => field.type === "text");
var cast = defineStep({
  changeWord: "read",
  kind: "cast",
  verb: "Change its type",
  words: ["cast", "type", "convert", "number", "date", "parse", "read as", "format", "text to date", "text to number"],
  params: z10.strictObject({
    columns: selectorSchema,
    type: z10.enum(scalarTypes),
    formats: z10.array(z10.string().min(1)).optional(),
    locale: localeSchema.optional(),
    language: z10.literal("en").optional(),
    year: z10.int().min(1).max(9999).optional()
  }),
  drafts: {
    table: ({ schema }) => [
      { rank: 190, verb: "Change types", params: { columns: [schema[0]?.name ?? ""], type: "text" } }
    ],
    columns: ({ columns, schema }) => [
      {
        rank: 30,
        key: "T",
        verb: columns.length === 1 ? "Change its type" : "Change their type",
        params: { columns, type: textsOf3(columns, schema).length === columns.length ? "decimal" : "text" }
      }
    ]
  },
  sentence: (params) => [
    "Read ",
    columnsSlot(params.columns, "columns"),
    " as ",
    slot(typeWords[params.type], "types", ["type"]),
    ...isDated(params.type) ? [", written ", slot(wordsFor(params), "formats", ["formats"])] : [],
    ...params.year === void 0 ? [] : [", where no year stands ", slot(String(params.year), "number", ["year"])],
    ...params.locale && !isPlain(params.locale) ? [", with ", slot(localeWords(params.locale), "types", ["type"])] : [],
    "."
  ],
  readingFixes: ({ columns, type, formats: formats2, locale, year: year2 }, column, texts) => {
    const dates = moreDatePatterns({ type, formats: formats2, year: year2 }, texts);
    const numbers4 = otherNumberSigns(type, locale, texts);
    const alone2 = Array.isArray(columns) && columns.length === 1 && columns[0] === column;
    return [
      ...dates ? [
        {
          params: { formats: dates.formats },
          words: listed(dates.added.map(formatWords), "or"),
          reads: dates.reads
        }
      ] : [],
      ...numbers4 && alone2 ? [
        {
          params: { locale: numbers4.locale },
          words: `numbers with ${localeWords(numbers4.locale)}`,
          reads: numbers4.reads
        }
      ] : []
    ];
  },
  output: ({ columns, type, formats: formats2 }, input, context) => {
    const fields = checkSelector(columns, input, context, "columns");
    checkFormats(formats2, context, "formats");
    for (const field of fields)
      if (!canConvert(field.type, type))
        context.report({ code: "cannot-cast", column: field.name, from: field.type, to: type }, "type");
    return input.map((field) => fields.includes(field) ? { name: field.name, type } : field);
  },
  run: ({ columns, type, formats: formats2, locale, year: year2 }, table) => {
    let result = table;
    let cellsChanged = 0;
    const unreadable = [];
    for (const name2 of selectedNames(columns, table.schema)) {
      const at = result.positionOf(name2);
      const converted = convert(result.column(at), { type, formats: formats2, locale, year: year2 });
      result = result.with(at, name2, converted.column, true);
      cellsChanged += converted.changed;
      if (converted.unreadable.length > 0) unreadable.push({ column: name2, rows: converted.unreadable });
    }
    return { table: result, lineage: { kind: "same" }, cellsChanged, unreadable };
  },
  trace: {
    changed: (before, after) => after === "empty" ? `${before} cannot be read` : `${before} read as ${after}`
  },
  scripts: {
    sql: (params, context) => {
      const cells = selected(params.columns, context.input).map((field) => ({
        name: field.name,
        kind: params.type,
        text: context.column(field.name),
        ...readOnce(field, params, context)
      }));
      const joins = cells.flatMap(({ join: join2 }) => join2 ?? []);
      return {
        body: selectColumns(
          context,
          Object.fromEntries(cells.map(({ name: name2, read: read2 }) => [name2, read2])),
          joined(joins, "")
        ),
        after: unreadSql(cells, context.from, context)
      };
    },
    python: (params, { frame, input, plain: plain4 }) => {
      const { columns, type, formats: formats2 = [], locale = plainLocale, year: year2 } = params;
      const reader3 = plain4 && readsTexts(params, input) ? textReader2({ type, formats: formats2, locale }) : void 0;
      if (reader3)
        return eachColumnPython(
          columns,
          frame,
          (name2) => py`${frame}[${name2}] = ${pyHelper("read_cells")}(${frame}[${name2}], ${reader3}, ${type})`
        );
      const options3 = [
        ...isDated(type) && formats2.length > 0 ? [py`, formats=${pythonPatterns(formats2, year2)}`] : [],
        ...locale.decimal !== "." || locale.group !== "," ? [py`, decimal=${locale.decimal}, group=${locale.group}`] : []
      ];
      return eachColumnPython(
        columns,
        frame,
        (name2) => py`${frame}[${name2}] = ${pyHelper("cast")}(${frame}[${name2}], ${type}${joined(options3, "")})`
      );
    }
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column)
});

// core/src/steps/shared/statistics.ts
import { z as z12 } from "zod";

// core/src/table/by-word.ts
import { z as z11 } from "zod";
var byWord = (value) => z11.unknown().transform((data, context) => {
  const record = {};
  if (typeof data !== "object" || data === null || Array.isArray(data)) {
    context.addIssue({ code: "custom", message: "a record by names is expected" });
    return z11.NEVER;
  }
  for (const [word2, one2] of Object.entries(data)) {
    const read2 = value.safeParse(one2);
    if (read2.success) setOwnValue(record, word2, read2.data);
    else
      for (const { message, path } of read2.error.issues)
        context.addIssue({ code: "custom", message, path: [word2, ...path] });
  }
  return record;
});

// core/src/steps/shared/statistics.ts
var stepStatistics = z12.object({
  id: z12.string(),
  kind: z12.string(),
  sentence: z12.string(),
  rowsIn: z12.number(),
  rowsOut: z12.number(),
  rowsLeft: z12.number(),
  rowsCame: z12.number(),
  columnsAdded: z12.array(z12.string()),
  columnsDropped: z12.array(z12.string()),
  columnsRenamed: byWord(z12.string()),
  cellsChanged: z12.number(),
  unreadable: byWord(z12.number()),
  notes: byWord(z12.number()),
  check: z12.object({ passed: z12.boolean(), stop: z12.boolean(), say: z12.string(), figure: z12.number().nullable() }).optional()
});
var plainFigure = (text3, only = "all") => ({
  text: text3,
  tone: "plain",
  ...only ? { only } : {}
});
var figureIf = (n, of) => n !== void 0 && n > 0 ? [of(n)] : [];

// core/src/steps/check/index.ts
import { z as z13 } from "zod";
var within2 = (value, limits2) => value >= (limits2["at-least"] ?? -Infinity) && value <= (limits2["at-most"] ?? Infinity);
var limitWords = (limits2, show = String) => {
  const [least2, most] = [limits2["at-least"], limits2["at-most"]];
  if (least2 !== void 0 && most !== void 0)
    return least2 === most ? show(least2) : `between ${show(least2)} and ${show(most)}`;
  if (least2 !== void 0) return `at least ${show(least2)}`;
  if (most !== void 0) return `at most ${show(most)}`;
  return "any number";
};
var percent2 = (share) => `${formatDecimal(share * 100)} %`;
var askedWords = (asked, names3) => {
  if ("every" in asked) return `every row meets: ${conditionWords(asked.every)}`;
  if ("unique" in asked) return `no two rows are alike in ${selectorWords(asked.unique)}`;
  if ("rows" in asked) return `the number of rows is ${limitWords(asked.rows)}`;
  if ("total" in asked)
    return `the total of ${asked.total.column} is ${typeof asked.total.equals === "number" ? formatDecimal(asked.total.equals) : `that of ${asked.total.equals.column} in ${names3(asked.total.equals.table)}`}`;
  return `the share of rows where ${conditionWords(asked.share.where)} is ${limitWords(asked.share, percent2)}`;
};
var totalOf = (table, column) => {
  const from = table.named(column);
  if (from.type !== "integer" && from.type !== "decimal") throw new Error(`total of ${from.type}`);
  return kernels().groupTotals(from.values, from.nulls, uint32s(table.rowCount), 1).sums[0] ?? 0;
};
var rowsWhere = (mask, value) => {
  const rows2 = new IntList();
  for (let i = 0; i < mask.length; i++) if (mask[i] === value) rows2.push(i);
  return rows2.done();
};
var evaluateCheck = (asked, table, context) => {
  if ("every" in asked) {
    const against = rowsWhere(evaluateCondition(asked.every, table, context), 0);
    return { passed: against.length === 0, figure: against.length, against };
  }
  if ("unique" in asked) {
    const { ids, count: count3 } = groupRows(
      table,
      selected(asked.unique, table.schema).map(({ name: name2 }) => name2)
    );
    const held = new Uint32Array(count3);
    for (const id of ids) held[id] = held[id] + 1;
    const against = rowsWhere(
      Uint8Array.from(ids, (id) => held[id] > 1 ? 1 : 0),
      1
    );
    return { passed: against.length === 0, figure: against.length, against };
  }
  if ("rows" in asked) return { passed: within2(table.rowCount, asked.rows), figure: table.rowCount };
  if ("total" in asked) {
    const { column, equals, within: reach2 = 5e-3 } = asked.total;
    const figure2 = totalOf(table, column);
    const wanted = typeof equals === "number" ? equals : totalOf(equals.table === context.own ? table : context.table(equals.table), equals.column);
    return { passed: Math.abs(figure2 - wanted) <= reach2, figure: figure2 };
  }
  const mask = evaluateCondition(asked.share.where, table, context);
  const share = table.rowCount === 0 ? 0 : mask.reduce((sum, one2) => sum + one2, 0) / table.rowCount;
  return { passed: within2(share, asked.share), figure: share, against: rowsWhere(mask, 1) };
};
var checkNumber = (column, schema, context, ...path) => {
  const field = checkColumn(column, schema, context, ...path);
  if (field && !isNumber(field.type))
    context.report({ code: "wrong-type", column, type: field.type, needs: "numbers" }, ...path);
};
var limits = { "at-least": z13.number().optional(), "at-most": z13.number().optional() };
var common = { else: z13.enum(["warn", "stop"]), say: z13.string() };
var checkSql = (asked, rows2, input, {
  column,
  table,
  conditionOf,
  own: own2
}) => {
  const bounds2 = (figure2, { "at-least": least2, "at-most": most }) => joined(
    [
      ...least2 === void 0 ? [] : [sql`${figure2} >= ${least2}`],
      ...most === void 0 ? [] : [sql`${figure2} <= ${most}`],
      code("true")
    ],
    " and "
  );
  if ("every" in asked)
    return sql`select count(*) = 0 as passed, count(*)::float8 as figure from ${rows2} where not (${conditionOf(asked.every)})`;
  if ("unique" in asked)
    return sql`select coalesce(sum(n), 0) = 0 as passed, coalesce(sum(n), 0)::float8 as figure from (select count(*) as n from ${rows2} group by ${selected(asked.unique, input).map((field) => column(field.name))} having count(*) > 1) g`;
  if ("rows" in asked)
    return sql`select ${bounds2(code("count(*)"), asked.rows)} as passed, count(*)::float8 as figure from ${rows2}`;
  if ("total" in asked) {
    const { column: wanted, equals, within: reach2 = 5e-3 } = asked.total;
    const total = (from, schema, one2) => schema.find((field) => field.name === one2)?.type === "integer" ? sql`(select coalesce(sum(${column(one2)}), 0)::float8 from ${from})` : sql`(select coalesce(${sqlHelper("exact_sum")}(${column(one2)} order by "¶"), 0) from ${from})`;
    const mine = total(rows2, input, wanted);
    const chooseOther = () => {
      if (typeof equals === "number") return sql`${equals}::float8`;
      if (equals.table === own2) return total(rows2, input, equals.column);
      return total(table(equals.table).rows, table(equals.table).columns, equals.column);
    };
    const other = chooseOther();
    return sql`select abs(${mine} - ${other}) <= ${reach2} as passed, ${mine} as figure`;
  }
  const share = sql`coalesce((count(*) filter (where ${conditionOf(asked.share.where)}))::float8 / nullif(count(*), 0), 0)`;
  return sql`select ${bounds2(share, asked.share)} as passed, ${share} as figure from ${rows2}`;
};
var warning = { else: "warn", say: "" };
var boundsPython = (limits2) => [
  ...limits2["at-least"] === void 0 ? [] : [py`at_least=${limits2["at-least"]}`],
  ...limits2["at-most"] === void 0 ? [] : [py`at_most=${limits2["at-most"]}`]
];
var totalsPython = ({ column, equals, within: reach2 = 5e-3 }, frame, own2, table) => {
  const other = typeof equals === "number" ? py`${equals}` : py`${pyHelper("total_of")}(${equals.table === own2 ? frame : table(equals.table).frame}, ${equals.column})`;
  return [
    py`${pyHelper("total_of")}(${frame}, ${column})`,
    py`at_least=${other} - ${reach2}`,
    py`at_most=${other} + ${reach2}`
  ];
};
var checkPython = (params, context, { rows: rows2, where: where2, repeated: repeated2 }) => {
  const { frame, table, own: own2, names: names3 } = context;
  const say = py`${params.say || askedWords(params, names3)}`;
  const call = (...args2) => py`${pyHelper("check_rows")}(${joined([say, ...args2, py`stop_here=${params.else === "stop"}`], ", ")})`;
  if ("every" in params) return call(where2({ not: params.every }), py`at_most=0`);
  if ("unique" in params) return call(repeated2(selectorPython(params.unique, frame)), py`at_most=0`);
  if ("rows" in params) return call(rows2, ...boundsPython(params.rows));
  if ("share" in params) return call(py`${where2(params.share.where)} / max(1, ${rows2})`, ...boundsPython(params.share));
  return call(...totalsPython(params.total, frame, own2, table));
};
var check2 = defineStep({
  figures: ({ check: result, notes }) => {
    if (!result) return [];
    if (result.passed) return [{ text: "\u2713 holds", tone: "added", only: "all" }];
    return [
      { text: "\u2717 does not hold", tone: "removed", only: notes.against ? "against" : "all" },
      ...result.figure === null ? [] : [plainFigure(figure(Number(result.figure.toPrecision(6))))]
    ];
  },
  kind: "check",
  verb: "Check that\u2026",
  words: ["check", "test", "assert", "validate", "quality", "unique", "must", "rule", "reconcile", "control total"],
  params: z13.union([
    z13.strictObject({ every: conditionSchema, ...common }),
    z13.strictObject({ unique: selectorSchema, ...common }),
    z13.strictObject({ rows: z13.strictObject(limits), ...common }),
    z13.strictObject({
      total: z13.strictObject({
        column: name,
        equals: z13.union([z13.number(), z13.strictObject({ table: z13.string().min(1), column: name })]),
        within: z13.number().min(0).optional()
      }),
      ...common
    }),
    z13.strictObject({ share: z13.strictObject({ where: conditionSchema, ...limits }), ...common })
  ]),
  drafts: {
    table: () => [{ rank: 140, params: { rows: { "at-least": 1 }, ...warning } }],
    columns: ({ columns, schema }) => {
      const [first2 = "", ...more] = columns;
      const [number3] = numbersOf(columns, schema);
      return [
        {
          rank: 220,
          verb: more.length === 0 ? "Check that no value repeats" : "Check that no combination repeats",
          params: { unique: columns, ...warning }
        },
        ...more.length === 0 ? [
          {
            rank: 230,
            verb: "Check that it is always filled",
            params: { every: { column: first2, op: "is-filled" }, ...warning }
          }
        ] : [],
        ...number3 === void 0 ? [] : [{ rank: 240, verb: "Check its total", params: { total: { column: number3, equals: 0 }, ...warning } }]
      ];
    },
    cell: ({ column, value, schema }) => {
      const type = typeIn(schema, column);
      if (value === null || type === "list") return [];
      const every = { column, op: "is-not", value: valueOfText(value, type) };
      return [{ rank: 7, verb: "Check that no row holds it", params: { every, ...warning } }];
    }
  },
  sentence: (params, names3) => [
    "Check that ",
    slot(askedWords(params, names3), "check", []),
    ", else ",
    slot(
      params.else === "stop" ? "stop" : "warn",
      "choice",
      ["else"],
      [
        ["warn", "warn"],
        ["stop", "stop"]
      ]
    ),
    ...params.say === "" ? ["."] : [": ", slot(params.say, "text", ["say"]), "."]
  ],
  uses: (params) => "total" in params && typeof params.total.equals === "object" ? [params.total.equals.table] : [],
  output: (params, input, context) => {
    if ("every" in params) checkCondition(params.every, input, context, "every");
    else if ("unique" in params) checkSelector(params.unique, input, context, "unique");
    else if ("share" in params) checkCondition(params.share.where, input, context, "share", "where");
    else if ("total" in params) {
      checkNumber(params.total.column, input, context, "total", "column");
      const { equals } = params.total;
      if (typeof equals === "object")
        checkNumber(
          equals.column,
          context.tableColumns(equals.table),
          inTable(context, equals.table),
          "total",
          "equals",
          "column"
        );
    }
    return input;
  },
  run: (params, table, context) => {
    const judged = evaluateCheck(params, table, context);
    return {
      table,
      lineage: { kind: "same" },
      check: { ...judged, stop: params.else === "stop", say: params.say || askedWords(params, context.names) },
      notes: { against: judged.against?.length ?? 0 }
    };
  },
  scripts: {
    sql: (params, context) => {
      const judged = checkSql(params, context.from, context.input, {
        column: context.column,
        table: context.table,
        own: context.own,
        conditionOf: (condition) => conditionSql(condition, context)
      });
      const after = sql`select ${sqlHelper("check_holds")}(passed, figure, ${params.say || askedWords(params, context.names)}, ${params.else === "stop"}) as ignored from (${judged}) judged ${psql("gset")}\n`;
      return { body: selectColumns(context), after };
    },
    spark: (params, context) => checkPython(params, context, {
      rows: py`${sparkHelper("row_count")}(${context.frame})`,
      where: (condition) => py`${sparkHelper("rows_where")}(${context.frame}, lambda ${context.frame}: ${conditionPython(condition, context)})`,
      repeated: (names3) => py`${sparkHelper("repeated_rows")}(${context.frame}, ${names3})`
    }),
    python: (params, context) => checkPython(params, context, {
      rows: py`len(${context.frame})`,
      where: (condition) => py`(${conditionPython(condition, context)}).sum()`,
      repeated: (names3) => py`${context.frame}.duplicated(subset=${names3}, keep=False).sum()`
    })
  }
});

// core/src/steps/combine/index.ts
import { z as z14 } from "zod";
var layout = (params, input) => {
  const joinedNames2 = selectedNames(params.columns, input);
  const kept2 = params.keep ? input : input.filter((field) => !joinedNames2.includes(field.name));
  return {
    kept: kept2,
    as: freeName(
      params.as,
      kept2.map((field) => field.name)
    )
  };
};
var carriedBy = (params, input) => Object.fromEntries(layout(params, input).kept.map((field) => [field.name, field.name]));
var combine = defineStep({
  kind: "combine",
  verb: "Combine columns into one text",
  words: ["combine", "concatenate", "merge columns", "join text", "paste together", "unite"],
  params: z14.strictObject({
    columns: selectorSchema,
    as: name,
    with: z14.string(),
    keep: z14.boolean().optional(),
    ...placeSchema
  }),
  drafts: {
    columns: ({ columns }) => columns.length > 1 ? [{ rank: 160, params: { columns, as: columns.join(" "), with: " ", keep: true } }] : []
  },
  sentence: ({ columns, as, with: between3, keep }) => [
    "Combine ",
    columnsSlot(columns, "columns"),
    " as ",
    slot(as, "name", ["as"]),
    ", with ",
    slot(between3 === "" ? "nothing" : quoted(between3), "text", ["with"]),
    " between, and ",
    slot(
      keep ? "keep them" : "drop them",
      "choice",
      ["keep"],
      [
        ["true", "keep them"],
        ["false", "drop them"]
      ]
    ),
    "."
  ],
  output: (params, input, context) => {
    const fields = checkSelector(params.columns, input, context, "columns");
    if (fields.length === 0 && !Array.isArray(params.columns))
      context.report({ code: "no-columns-chosen", selector: "that rule" }, "columns");
    const { kept: kept2, as } = layout(params, input);
    checkPlace(params, kept2, context);
    return withField(kept2, { name: as, type: "text" }, params);
  },
  run: (params, table) => {
    const { kept: kept2, as } = layout(params, table.schema);
    const parts2 = selected(params.columns, table.schema).map(({ name: one2, type }) => ({
      column: table.named(one2),
      type
    }));
    const writer = columnWriter("text", table.rowCount);
    for (let row = 0; row < table.rowCount; row++) {
      const texts = parts2.flatMap(({ column, type }) => {
        const cell = cellAt(column, row);
        return cell === null ? [] : [textOfCell(type, cell)];
      });
      writer.set(row, texts.join(params.with) || null);
    }
    const rest = table.select(kept2.map((field) => table.positionOf(field.name)));
    return { table: rest.with(positionFor(params, rest.names), as, writer.done()), lineage: { kind: "same" } };
  },
  trace: {
    cells: (params, { before }, column, rows2) => ownValue(carriedBy(params, before.schema), column) === void 0 ? sourcesIn(
      selected(params.columns, before.schema).map(({ name: part2 }) => part2),
      rows2
    ) : void 0
  },
  columnLineage: carriedBy,
  scripts: {
    sql: (params, context) => {
      const parts2 = selected(params.columns, context.input).map(
        (field) => sql`${sqlHelper("shown")}(${context.column(field.name)})`
      );
      return selectColumns(context, {
        [layout(params, context.input).as]: sql`nullif(concat_ws(${params.with}, ${joined(parts2, ", ")}), '')`
      });
    },
    python: (params, { frame, input }) => {
      const { as } = layout(params, input);
      return py`${frame} = ${pyHelper("combine")}(${frame}, ${selectorPython(params.columns, frame)}, ${as}, ${params.with}, keep=${params.keep === true}${placePython(params)})${code("")}`;
    }
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column)
});

// core/src/steps/derive/index.ts
import { z as z15 } from "zod";

// core/src/formula/lazy-formula.ts
var numberKnown = (value) => typeof value === "number" ? { low: value, high: value, least: Math.abs(value), failing: void 0, reads: [] } : void 0;
var columnKnown = (column) => {
  if (column.type !== "integer" && column.type !== "decimal") return void 0;
  const bounds2 = boundsOfColumn(column);
  return bounds2.low <= bounds2.high ? { ...bounds2, failing: void 0, reads: [column] } : void 0;
};
var leastOf = ({ low, high, least: least2 = 0 }) => low > 0 || high < 0 ? Math.min(Math.abs(low), Math.abs(high)) : least2;
var knownOf = (node, table, environment) => {
  if (node.kind === "column") return columnKnown(table.named(node.name));
  if (node.kind !== "call")
    return numberKnown(node.kind === "constant" ? node.value : ownValue(environment.parameters, node.name) ?? null);
  if (!node.fn.bounds) return void 0;
  const args2 = [];
  for (const arg of node.args) {
    const known3 = knownOf(arg, table, environment);
    if (!known3) return void 0;
    args2.push(known3);
  }
  const bounds2 = node.fn.bounds(args2);
  if (!bounds2) return void 0;
  const reads2 = args2.flatMap((arg) => arg.reads);
  const found2 = args2.flatMap(({ failing: failing2 }) => failing2 ?? []);
  if (bounds2.failsAtZero !== void 0) {
    const divisor = columnUnder(node.args[bounds2.failsAtZero]);
    if (!divisor) return void 0;
    const zeros2 = zeroRows(table.named(divisor));
    found2.push(reads2.reduce((rows2, { nulls }) => rowsOfBit(rows2, nulls, 0), zeros2));
  }
  const failing = found2.length > 0 ? found2.reduce(mergedRows) : void 0;
  return { low: bounds2.low, high: bounds2.high, least: leastOf(bounds2), reads: reads2, failing };
};
var columnUnder = (node) => {
  if (node?.kind === "call" && node.fn.name === "as_decimal") return columnUnder(node.args[0]);
  return node?.kind === "column" ? node.name : void 0;
};
var cellOf2 = (node, table, row, environment) => {
  if (node.kind === "column") return table.cell(table.positionOf(node.name), row);
  if (node.kind === "constant") return node.value;
  if (node.kind === "parameter") return ownValue(environment.parameters, node.name) ?? null;
  const cells = node.args.map((arg) => cellOf2(arg, table, row, environment));
  const types = node.args.map(({ type }) => type);
  const outcome = compute2(node.fn, cells, types, environment);
  return outcome === failed || outcome === "" ? null : outcome;
};
var numbersOf2 = (node, table, environment) => {
  if (node.kind === "column") return table.named(node.name).values;
  if (node.kind === "call") return node.fn.numbers(node.args.map((arg) => numbersOf2(arg, table, environment)));
  return node.kind === "constant" ? node.value : ownValue(environment.parameters, node.name);
};
var calculated = (formula, type, table, environment, failures) => {
  const values = float64s(table.rowCount);
  kernels().calculate(numbersOf2(formula, table, environment), values);
  const given = readsOf(formula).columns.map((name2) => table.named(name2).nulls);
  const empty = given.reduce(emptyOf, void 0);
  if (!empty && failures.length === 0) return { type, values, nulls: void 0 };
  const nulls = empty ?? bitmap(table.rowCount);
  for (const row of failures) set(nulls, row);
  fillSet(values, nulls, 0);
  return { type, values, nulls };
};
var computedWhenNeeded = (formula, type, table, environment, make) => new LazyColumn({
  ...{ type, length: table.rowCount, holds: () => table.buffers, again: true, make },
  cell: (row) => cellOf2(formula, table, row, environment)
});
var byBounds = (formula, type, table, environment) => {
  const known3 = formula.kind === "call" ? knownOf(formula, table, environment) : void 0;
  if (!known3 || type !== "integer" && type !== "decimal") return void 0;
  const failures = known3.failing ?? int32s(0);
  const make = () => calculated(formula, type, table, environment, failures);
  return { column: computedWhenNeeded(formula, type, table, environment, make), failures };
};
var isTotal = (node) => {
  if (node.kind !== "call") return true;
  const { total } = node.fn;
  return (total === true || total?.(constantsOf(node)) === true) && node.args.every(isTotal);
};
var byCells = (formula, type, table, environment) => {
  if (formula.kind !== "call" || !isTotal(formula)) return void 0;
  const make = () => evaluateRows(formula, type, table, environment).column;
  return { column: computedWhenNeeded(formula, type, table, environment, make), failures: int32s(0) };
};
var combinations = (words3, bound) => {
  let below = bound;
  return words3.map((column) => {
    const count3 = lengthOf(column);
    below /= count3;
    const index = int32s(bound);
    for (let code2 = 0; code2 < bound; code2++) index[code2] = Math.floor(code2 / below) % count3;
    return gather(column, markComplete(index));
  });
};
var mostCombinations = 65536;
var byCodes = (formula, type, table, environment, most) => {
  const codings = [];
  let bound = 1;
  for (let at = 0; at < table.names.length; at++) {
    const coding = codingOf(table.column(at), most / bound);
    if (!coding) return void 0;
    codings.push(coding);
    bound *= coding.bound;
  }
  const words3 = codings.map((coding, at) => wordsOf(coding, table.column(at)));
  const each = Table.of(table.names, combinations(words3, bound), bound);
  const { column: perCode, failures } = evaluateRows(formula, type, each, environment);
  if (failures.length > 0) return void 0;
  const codes = (rows2) => codings.map((coding, at) => codesBy(coding, table.column(at), rows2)).reduce((all, one2) => product(all, one2));
  const column = new LazyColumn({
    ...{ type, length: table.rowCount, again: true },
    holds: () => [...table.buffers, ...columnBuffers(perCode)],
    cell: (row) => cellAt(
      perCode,
      codings.reduce((all, coding, at) => all * coding.bound + codeAt(coding, table.column(at), row), 0)
    ),
    make: () => {
      const all = codes();
      return layOut(
        withoutUnmet(perCode, () => kernels().firstRows(all)),
        all.codes
      );
    },
    codes: (rows2) => {
      const all = codes(rows2);
      const made3 = codesOf(perCode);
      const index = new Int32Array(all.codes.buffer, all.codes.byteOffset, all.codes.length);
      return { codes: gatherIndices(made3.codes, markComplete(index)), bound: made3.bound };
    }
  });
  return { column, failures };
};
var among = (rows2, chosen, rowCount) => {
  if (!chosen || rows2.length === 0) return rows2;
  const marks = uint8s(rowCount);
  for (const row of rows2) marks[row] = 1;
  return kernels().rowsOfCodes(new Uint32Array(chosen.buffer, chosen.byteOffset, chosen.length), marks, 1);
};
var formulaColumn = (formula, type, table, given) => {
  const environment = { parameters: given.parameters, now: given.now };
  const { columns, byCell } = readsOf(formula);
  const before = table.beforeChoice(columns.map((name2) => table.positionOf(name2)));
  if (before && before.table.rowCount <= 2 * table.rowCount) {
    const most = Math.min(mostCombinations, table.rowCount >> 1);
    const { rows: rows2, table: whole5 } = before;
    const lazy = byBounds(formula, type, whole5, environment) ?? (byCell ? byCodes(formula, type, whole5, environment, most) : void 0) ?? byCells(formula, type, whole5, environment);
    if (lazy) return { column: lazy.column, rows: rows2, failures: among(lazy.failures, rows2, whole5.rowCount) };
  }
  return { ...evaluateFormula(formula, type, table, environment), rows: void 0 };
};

// core/src/steps/derive/index.ts
var countChanged = (before, after) => {
  let changed2 = 0;
  for (let i = 0, n = lengthOf(before); i < n; i++) if (cellAt(before, i) !== cellAt(after, i)) changed2++;
  return changed2;
};
var plainPython2 = (params, formula, { frame, input }) => {
  const value = formulaPandas(formula, (column) => py`${frame}[${column}]`);
  if (!value || formula.kind === "constant") return void 0;
  const cells = formula.kind === "call" && formula.type === "decimal" ? py`${pyHelper("finite")}(${value})` : value;
  return putPandas(frame, input, params.as, params, cells);
};
var derive = defineStep({
  kind: "derive",
  verb: "Compute a column",
  words: ["derive", "compute", "calculate", "formula", "new column", "add column", "expression", "mutate"],
  params: z15.strictObject({ as: name, formula: z15.string().min(1), ...placeSchema }),
  drafts: {
    table: ({ schema }) => [{ rank: 20, params: { as: newName("New column", schema), formula: "1" } }],
    columns: ({ columns: [first2 = "", ...more], schema }) => more.length > 0 ? [] : [
      {
        rank: 270,
        verb: "Compute a column from it",
        params: { as: newName(first2, schema), formula: writeColumn(first2), after: first2 }
      }
    ]
  },
  sentence: ({ as, formula }) => [
    "Compute ",
    slot(as, "name", ["as"]),
    " as ",
    slot(formula, "formula", ["formula"]),
    "."
  ],
  output: (params, input, context) => {
    checkPlace(params, input, context);
    const checked = checkFormula(params.formula, input, context.parameters);
    if ("problem" in checked) context.report({ code: "formula", problem: checked.problem }, "formula");
    const field = { name: params.as, type: "problem" in checked ? "text" : checked.type };
    const at = input.findIndex((one2) => one2.name === params.as);
    if (at >= 0) return input.map((one2, i) => i === at ? field : one2);
    return withField(input, field, params);
  },
  run: (params, table, context) => {
    const checked = checkedFormula(params.formula, table.schema, context.parameterTypes);
    const { column, rows: rows2, failures } = formulaColumn(checked.formula, checked.type, table, context);
    const at = table.positionOf(params.as);
    const place = at >= 0 ? at : positionFor(params, table.names);
    const made3 = table.with(place, params.as, column, at >= 0, rows2);
    return {
      table: made3,
      lineage: { kind: "same" },
      cellsChanged: at >= 0 ? countChanged(table.column(at), made3.column(at)) : 0,
      unreadable: failures.length > 0 ? [{ column: params.as, rows: failures }] : []
    };
  },
  trace: {
    cells: (params, { before, context }, column, rows2) => column === params.as ? sourcesIn(checkedFormula(params.formula, before.schema, context.parameterTypes).columns, rows2) : void 0
  },
  scripts: {
    sql: (params, context) => {
      const { formula } = checkedFormula(params.formula, context.input, context.parameters);
      const written5 = formulaSql(formula, context);
      const asText = () => {
        if (formula.type === "text") return sql`nullif(${written5}, '')`;
        if (formula.type === "empty") return sql`null::text`;
        return written5;
      };
      return selectColumns(context, {
        [params.as]: asText()
      });
    },
    python: (params, context) => {
      const checked = checkedFormula(params.formula, context.input, context.parameters);
      const { frame } = context;
      const plain4 = context.plain ? plainPython2(params, checked.formula, context) : void 0;
      if (plain4) return plain4;
      const written5 = formulaPython(checked.formula, {
        column: (column) => py`${frame}[${column}]`,
        parameter: context.parameter
      });
      return py`${frame} = ${pyHelper("put")}(${frame}, ${params.as}, ${written5}, ${checked.type}${placePython(params)})`;
    }
  }
});

// core/src/steps/distinct/index.ts
import { z as z16 } from "zod";
var whole4 = { all: true };
var alikeWords = ({ columns }, schema) => columns === void 0 ? "values" : listed(selectedNames(columns, schema));
var distinct2 = defineStep({
  dropsRows: true,
  kind: "distinct",
  verb: "Keep one row of each",
  words: ["distinct", "unique", "duplicates", "deduplicate", "repeat", "remove duplicates"],
  params: z16.strictObject({ columns: selectorSchema.optional(), keep: z16.enum(["first", "last"]).optional() }),
  drafts: {
    table: () => [{ rank: 60, verb: "Keep one row of those alike", params: {} }],
    columns: ({ columns }) => [
      {
        rank: 260,
        verb: columns.length === 1 ? "Keep one row of each value" : "Keep one row of each combination",
        params: { columns }
      }
    ]
  },
  sentence: ({ columns = whole4, keep = "first" }) => [
    "Keep the ",
    slot(
      keep,
      "choice",
      ["keep"],
      [
        ["first", "first"],
        ["last", "last"]
      ]
    ),
    ` row of those alike in ${columnNoun(columns)}`,
    columnsSlot(columns, "columns"),
    "."
  ],
  output: ({ columns = whole4 }, input, context) => {
    checkSelector(columns, input, context, "columns");
    return input;
  },
  run: ({ columns = whole4, keep = "first" }, table) => {
    const { ids, count: count3, first: first2 } = groupRows(table, selectedNames(columns, table.schema));
    const index = keep === "first" ? first2 : lastOf(ids, count3);
    return { table: table.rows(markComplete(index)), lineage: { kind: "index", index, kept: index.length } };
  },
  trace: {
    leftBy: () => [],
    left: (params, { before, lineage, rowName }, row) => {
      if (lineage.kind !== "index") return void 0;
      const names3 = selectedNames(params.columns ?? whole4, before.schema);
      const { ids } = groupRows(before, names3);
      const kept2 = lineage.index.find((one2) => ids[one2] === ids[row]);
      return kept2 === void 0 ? void 0 : `the same ${alikeWords(params, before.schema)} as ${rowName(kept2)}, which stays`;
    },
    did: (params, { before }) => `kept, the ${params.keep ?? "first"} with its ${alikeWords(params, before.schema)}`
  },
  scripts: {
    sql: ({ columns = whole4, keep = "first" }, { from, input, output, column }) => {
      const keys = selectedNames(columns, input).map((name2) => column(name2));
      const names3 = output.map((field) => column(field.name));
      return sql`select "¶", ${names3}\nfrom (select *, row_number() over (${keys.length > 0 ? sql`partition by ${keys} ` : code("")}order by "¶"${code(keep === "last" ? " desc" : "")}) as "¶n" from ${from}) ranked\nwhere "¶n" = 1`;
    },
    spark: "table",
    python: ({ columns = whole4, keep = "first" }, { frame, renumbered }) => py`${frame} = ${renumbered(py`${frame}.drop_duplicates(subset=${selectorPython(columns, frame)}, keep=${keep})`)}`
  }
});
var lastOf = (ids, count3) => {
  const last = int32s(count3);
  for (let i = 0; i < ids.length; i++) last[ids[i]] = i;
  return last.sort();
};

// core/src/steps/drop/index.ts
import { z as z17 } from "zod";
var drop = defineStep({
  consumes: true,
  kind: "drop",
  verb: "Drop these columns",
  words: ["drop", "remove", "delete", "columns", "hide", "leave out"],
  params: z17.strictObject({ columns: selectorSchema }),
  drafts: {
    table: ({ schema }) => [{ rank: 160, verb: "Drop columns", params: { columns: [schema.at(-1)?.name ?? ""] } }],
    columns: ({ columns, schema }) => columns.length < schema.length ? [{ rank: 40, key: "Del", verb: columns.length === 1 ? "Drop it" : "Drop them", params: { columns } }] : []
  },
  sentence: ({ columns }) => [`Drop ${columnNoun(columns)}`, columnsSlot(columns, "columns"), "."],
  output: ({ columns }, input, context) => {
    const gone = checkSelector(columns, input, context, "columns");
    const left = input.filter((field) => !gone.includes(field));
    if (left.length === 0) context.report({ code: "no-columns-left" }, "columns");
    return left;
  },
  run: ({ columns }, table) => {
    const gone = new Set(selectedNames(columns, table.schema));
    return {
      table: table.select(table.names.flatMap((name2, i) => gone.has(name2) ? [] : [i])),
      lineage: { kind: "same" }
    };
  },
  scripts: {
    sql: (_params, context) => selectColumns(context),
    spark: "table",
    python: ({ columns }, { frame }) => py`${frame} = ${frame}.drop(columns=${selectorPython(columns, frame)})`
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column)
});

// core/src/steps/duplicate/index.ts
import { z as z18 } from "zod";
var made = ({ column, as }, schema) => ({
  name: freeName(
    as,
    schema.map((field) => field.name)
  ),
  type: schema.find((field) => field.name === column)?.type ?? "text"
});
var duplicate = defineStep({
  kind: "duplicate",
  verb: "Copy the column",
  words: ["duplicate", "copy", "clone", "repeat", "column"],
  params: z18.strictObject({ column: name, as: name, ...placeSchema }),
  drafts: {
    columns: ({ columns: [column = "", ...more] }) => more.length === 0 ? [{ rank: 160, params: { column, as: column, after: column } }] : []
  },
  sentence: ({ column, as }) => [
    "Copy the column ",
    slot(column, "oneColumn", ["column"]),
    " as ",
    slot(as, "name", ["as"]),
    "."
  ],
  output: (params, input, context) => {
    checkColumn(params.column, input, context, "column");
    checkPlace(params, input, context);
    return withField(input, made(params, input), params);
  },
  run: (params, table) => ({
    table: table.with(positionFor(params, table.names), made(params, table.schema).name, table.named(params.column)),
    lineage: { kind: "same" }
  }),
  trace: {
    cells: (params, { before }, column, rows2) => column === made(params, before.schema).name ? [{ column: params.column, rows: rows2 }] : void 0
  },
  scripts: {
    sql: (params, context) => selectColumns(context, { [made(params, context.input).name]: sql`${context.column(params.column)}` }),
    python: (params, { frame, input }) => py`${frame} = ${pyHelper("put")}(${frame}, ${made(params, input).name}, ${frame}[${params.column}], ${made(params, input).type}${placePython(params)})`
  }
});

// core/src/steps/enter/index.ts
import { z as z19 } from "zod";
var plainCell = z19.union([z19.string(), z19.number(), z19.boolean(), z19.null()]);
var plainOf = (cell, type) => {
  if (typeof cell !== "object" || cell === null) return cell;
  return type === "list" ? listText(cell) : JSON.stringify(cell);
};
var cellsOf = ({ columns, rows: rows2 }, c) => rows2.map((row) => plainOf(row[c] ?? null, columns[c]?.type ?? "text"));
var framePython = (params) => py`pd.DataFrame({${joined(
  params.columns.map(
    (field, c) => py`${field.name}: ${pyHelper("column")}([${joined(
      cellsOf(params, c).map((value) => literalPython(value, field.type)),
      ", "
    )}], ${field.type})`
  ),
  ", "
)}}, index=range(${params.rows.length}))`;
var enter = defineStep({
  kind: "enter",
  verb: "Type a small table",
  words: ["enter", "type", "table", "paste", "constants", "manual", "lookup", "by hand"],
  start: true,
  params: z19.strictObject({
    columns: z19.array(z19.strictObject({ name, type: z19.enum(columnTypes) })).min(1),
    rows: z19.array(z19.array(z19.union([plainCell, z19.array(plainCell)])))
  }),
  sentence: ({ columns, rows: rows2 }) => [
    "Take the typed table of ",
    slot(`${counted(rows2.length, "row")} and ${counted(columns.length, "column")}`, "grid", []),
    "."
  ],
  output: ({ columns, rows: rows2 }, _input, context) => {
    columns.forEach((field, c) => {
      if (columns.findIndex((other) => other.name === field.name) !== c)
        context.report({ code: "twice-named", column: field.name }, "columns", c, "name");
      cellsOf({ columns, rows: rows2 }, c).forEach((value, r) => {
        if (cellFor(value, field.type) === void 0 || Array.isArray(rows2[r]?.[c]) && field.type !== "list")
          context.report(
            { code: "wrong-value", value: String(value), column: field.name, type: field.type },
            "rows",
            r,
            c
          );
      });
    });
    rows2.forEach((row, r) => {
      if (row.length > columns.length)
        context.report({ code: "too-many-cells", row: r + 1, cells: row.length, columns: columns.length }, "rows", r);
    });
    return columns;
  },
  run: (params) => ({
    table: Table.of(
      params.columns.map((field) => field.name),
      params.columns.map(
        ({ type }, c) => columnOf(
          type,
          cellsOf(params, c).map((value) => cellFor(value, type) ?? null)
        )
      ),
      params.rows.length
    ),
    lineage: { kind: "source" }
  }),
  scripts: {
    sql: (params, { column }) => {
      const { columns, rows: rows2 } = params;
      const typed = columns.map((field, c) => sql`column${c + 2}::${sqlTypeName(field.type)} as ${column(field.name)}`);
      const values = rows2.map(
        (_, r) => sql`(${r + 1}, ${joined(
          columns.map(({ type }, c) => literalSql(cellsOf(params, c)[r] ?? null, type)),
          ", "
        )})`
      );
      const none2 = sql`(0, ${joined(
        columns.map(() => code("null")),
        ", "
      )})`;
      return sql`select column1::bigint as "¶", ${joined(typed, ", ")}\nfrom (values ${joined(rows2.length > 0 ? values : [none2], ",\n  ")}) typed${rows2.length > 0 ? code("") : code(" where false")}`;
    },
    spark: (params, { frame }) => py`${frame} = ${sparkHelper("entered")}(${framePython(params)}, ${params.columns.map(({ type }) => type)})`,
    python: (params, { frame }) => py`${frame} = ${framePython(params)}`
  }
});

// core/src/table/row-set.ts
var noRows = { rows: int32s(0) };
var oneRow = (row) => ({ rows: Int32Array.of(row) });
var timesAt = ({ times: times2 }, i) => times2?.[i] ?? 1;
var sparseShare = 32;
var RowCounter = class {
  size;
  sparse = /* @__PURE__ */ new Map();
  dense;
  distinct = 0;
  repeated = false;
  constructor(size) {
    this.size = size;
  }
  add(row, times2) {
    if (row < 0) return;
    const { dense } = this;
    if (dense) {
      const known4 = dense[row];
      if (known4 === 0) this.distinct++;
      this.repeated ||= known4 > 0 || times2 > 1;
      dense[row] = known4 + times2;
      return;
    }
    const sparse = this.sparse;
    const known3 = sparse.get(row) ?? 0;
    this.repeated ||= known3 > 0 || times2 > 1;
    sparse.set(row, known3 + times2);
    if (sparse.size > 1024 && sparse.size * sparseShare > this.size) this.widen(sparse);
  }
  widen(sparse) {
    this.dense = uint32s(this.size);
    for (const [row, times2] of sparse) this.dense[row] = times2;
    this.distinct = sparse.size;
    this.sparse = void 0;
  }
  done() {
    const { sparse, dense } = this;
    if (!dense) {
      const rows3 = Int32Array.from(sparse?.keys() ?? []).sort();
      return this.repeated ? { rows: rows3, times: Uint32Array.from(rows3, (row) => sparse?.get(row) ?? 1) } : { rows: rows3 };
    }
    const rows2 = int32s(this.distinct);
    for (let row = 0, i = 0; i < rows2.length; row++) if (dense[row] > 0) rows2[i++] = row;
    if (!this.repeated) return { rows: rows2 };
    const times2 = uint32s(rows2.length);
    for (let i = 0; i < rows2.length; i++) times2[i] = dense[rows2[i]];
    return { rows: rows2, times: times2 };
  }
};
var throughIndex = (set3, index, size) => {
  const counter = new RowCounter(size);
  for (let i = 0; i < set3.rows.length; i++) counter.add(index[set3.rows[i]], timesAt(set3, i));
  return counter.done();
};
var timesOfRows = (set3, size) => {
  const times2 = uint32s(size);
  for (let i = 0; i < set3.rows.length; i++) times2[set3.rows[i]] = timesAt(set3, i);
  return times2;
};
var rowsWhere2 = (set3, holds4) => {
  const counter = [];
  for (let i = 0; i < set3.rows.length; i++) if (holds4(set3.rows[i])) counter.push(i);
  const rows2 = Int32Array.from(counter, (i) => set3.rows[i]);
  return set3.times ? { rows: rows2, times: Uint32Array.from(counter, (i) => set3.times?.[i] ?? 1) } : { rows: rows2 };
};
var allRows = (count3) => ({ rows: Int32Array.from({ length: count3 }, (_, i) => i) });

// core/src/steps/fill/index.ts
import { z as z20 } from "zod";
var nearestFilled = (column, { ids, count: count3 }, up) => {
  const n = lengthOf(column);
  const last = int32s(count3).fill(-1);
  const index = int32s(n);
  for (let k = 0; k < n; k++) {
    const i = up ? n - 1 - k : k;
    const group = ids[i];
    if (!isNullAt(column, i)) last[group] = i;
    index[i] = last[group];
  }
  return index;
};
var fill2 = defineStep({
  kind: "fill",
  verb: "Fill the gaps from the cell above",
  words: ["fill", "fill down", "fill up", "repeat", "merged", "gaps", "carry forward", "missing", "blank"],
  params: z20.strictObject({
    columns: selectorSchema,
    direction: z20.enum(["down", "up"]),
    within: selectorSchema.optional()
  }),
  drafts: { columns: ({ columns }) => [{ rank: 70, params: { columns, direction: "down" } }] },
  sentence: ({ columns, direction, within: within3 }) => [
    "Fill the gaps in ",
    columnsSlot(columns, "columns"),
    " from the cell ",
    slot(
      direction === "down" ? "above" : "below",
      "choice",
      ["direction"],
      [
        ["down", "above"],
        ["up", "below"]
      ]
    ),
    ...within3 ? [", within the rows alike in ", slot(selectorWords(within3), "columns", ["within"])] : [],
    "."
  ],
  output: ({ columns, within: within3 }, input, context) => {
    checkSelector(columns, input, context, "columns");
    if (within3) checkSelector(within3, input, context, "within");
    return input;
  },
  run: ({ columns, direction, within: within3 }, table) => {
    const groups = groupRows(table, within3 ? selectedNames(within3, table.schema) : []);
    let result = table;
    let cellsChanged = 0;
    for (const name2 of selectedNames(columns, table.schema)) {
      const at = table.positionOf(name2);
      const column = table.column(at);
      const index = nearestFilled(column, groups, direction === "up");
      for (let i = 0; i < index.length; i++) if (index[i] !== i && index[i] >= 0) cellsChanged++;
      result = result.with(at, name2, gather(column, index), true);
    }
    return { table: result, lineage: { kind: "index", index: sliceRows(table.rowCount) }, cellsChanged };
  },
  trace: {
    cells: ({ columns, direction, within: within3 }, { before }, column, rows2) => {
      if (!selectedNames(columns, before.schema).includes(column)) return void 0;
      const groups = groupRows(before, within3 ? selectedNames(within3, before.schema) : []);
      const index = nearestFilled(before.named(column), groups, direction === "up");
      return [{ column, rows: throughIndex(rows2, index, before.rowCount) }];
    }
  },
  scripts: {
    sql: ({ columns, direction, within: within3 }, { from, input, output, column }) => {
      const filled2 = new Set(selectedNames(columns, input));
      const keys = (within3 ? selected(within3, input) : []).map((field) => column(field.name));
      const order2 = code(direction === "up" ? '"\xB6" desc' : '"\xB6"');
      const part2 = (more) => [...keys, ...more].length > 0 ? sql`partition by ${joined([...keys, ...more], ", ")} ` : code("");
      const runOf = (n) => code(`"\xB6${n}"`);
      const names3 = output.map((field) => field.name).filter((name2) => filled2.has(name2));
      const counts2 = names3.map(
        (name2, n) => sql`count(${column(name2)}) over (${part2([])}order by ${order2}) as ${runOf(n)}`
      );
      const cells = output.map(
        (field) => filled2.has(field.name) ? sql`first_value(${column(field.name)}) over (${part2([runOf(names3.indexOf(field.name))])}order by ${order2}) as ${column(field.name)}` : column(field.name)
      );
      return sql`select "¶", ${joined(cells, ", ")}\nfrom (select *${joined(
        counts2.map((count3) => sql`, ${count3}`),
        ""
      )} from ${from}) runs`;
    },
    spark: "table",
    python: ({ columns, direction, within: within3 }, { frame }) => py`${frame} = ${pyHelper("fill")}(${frame}, ${selectorPython(columns, frame)}, ${direction}${within3 ? py`, within=${selectorPython(within3, frame)}` : code("")})`
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column)
});

// core/src/steps/fill-empty/index.ts
import { z as z21 } from "zod";

// core/src/table/fill-empty.ts
var fillValues = (column, put) => {
  const { nulls } = column;
  if (!nulls) return { column, filled: 0 };
  const values = column.values.slice();
  const left = bitmap(values.length);
  let filled2 = 0;
  let anyLeft = false;
  for (let row = 0; row < values.length; row++) {
    if (!isSet(nulls, row)) continue;
    const cell = put(row);
    if (cell === null) {
      set(left, row);
      anyLeft = true;
      continue;
    }
    values[row] = cell === 0 ? 0 : Number(cell);
    filled2++;
  }
  return { column: { ...column, values, nulls: anyLeft ? left : void 0 }, filled: filled2 };
};
var fillTexts = (column, put) => {
  const indices = column.indices.slice();
  if (!indices.includes(0)) return { column, filled: 0 };
  const dictionary2 = [...column.dictionary];
  const codes = new Map(dictionary2.map((word2, code2) => [word2, code2]));
  let filled2 = 0;
  for (let row = 0; row < indices.length; row++) {
    if (indices[row] !== 0) continue;
    const cell = put(row);
    if (cell === null || cell === "") continue;
    let code2 = codes.get(cell);
    if (code2 === void 0) {
      code2 = dictionary2.push(cell) - 1;
      codes.set(cell, code2);
    }
    indices[row] = code2;
    filled2++;
  }
  return filled2 === 0 ? { column, filled: filled2 } : { column: { ...column, indices, dictionary: dictionary2 }, filled: filled2 };
};
var withFilled = (column, put) => {
  if (!isTextColumn(column)) return fillValues(column, put);
  if (column.form === "dictionary") return fillTexts(column, put);
  const writer = columnWriter(column.type, lengthOf(column));
  let filled2 = 0;
  for (let row = 0, n = lengthOf(column); row < n; row++) {
    const cell = isNullAt(column, row) ? put(row) : cellAt(column, row);
    if (cell !== null && isNullAt(column, row)) filled2++;
    writer.set(row, cell);
  }
  return { column: writer.done(), filled: filled2 };
};

// core/src/steps/fill-empty/index.ts
var valueAt = (value, type, table, context) => {
  if (isColumnValue(value)) {
    const other = convert(table.named(value.column), { type }).column;
    return (row) => cellAt(other, row);
  }
  const cell = isParameterValue(value) ? ownValue(context.parameters, value.parameter) ?? null : cellFor(value, type) ?? null;
  const moved2 = isParameterValue(value) && ownValue(context.parameterTypes, value.parameter) === "date" && type === "datetime" && typeof cell === "number" ? cell * 864e5 : cell;
  return () => moved2;
};
var widened = (part2, type) => {
  if (type === "decimal") return sql`${part2}::float8`;
  if (type === "datetime") return sql`${part2}::timestamp`;
  return part2;
};
var firstFilling = (type, least2) => {
  if (type === "text") return "unknown";
  if (type === "integer" || type === "decimal") return 0;
  if (type === "boolean") return false;
  if (type === "time") return least2 ?? "00:00:00";
  const today = (/* @__PURE__ */ new Date()).toISOString().slice(0, 10);
  if (type === "date") return least2 ?? today;
  return type === "datetime" ? least2 ?? `${today}T00:00:00` : void 0;
};
var isPlainFill = (type, value) => {
  if (type === "text") return typeof value === "string" && value !== "";
  return type === "decimal" ? typeof value === "number" : type === "integer" && Number.isSafeInteger(value);
};
var fillEmpty = defineStep({
  kind: "fill-empty",
  verb: "Fill empty cells with a value",
  words: ["fill empty", "default", "missing", "null", "coalesce", "replace empty", "blank"],
  params: z21.strictObject({ columns: selectorSchema, with: valueSchema }),
  drafts: {
    columns: ({ columns, schema, sample }) => {
      const type = typeIn(schema, columns[0]);
      const value = type && firstFilling(type, sample?.(columns[0] ?? "")?.least);
      const alike3 = columns.filter((name2) => typeIn(schema, name2) === type);
      return value === void 0 ? [] : [{ rank: 80, params: { columns: alike3, with: value } }];
    }
  },
  sentence: ({ columns, with: value }) => [
    "Where ",
    columnsSlot(columns, "columns"),
    Array.isArray(columns) && columns.length === 1 ? " is empty, put " : " are empty, put ",
    slot(valueWords(value), "value", ["with"]),
    "."
  ],
  output: ({ columns, with: value }, input, context) => {
    for (const field of checkSelector(columns, input, context, "columns"))
      checkAssigned(value, field.name, field.type, input, context, "with");
    return input;
  },
  run: ({ columns, with: value }, table, context) => {
    let result = table;
    let cellsChanged = 0;
    for (const name2 of selectedNames(columns, table.schema)) {
      const at = table.positionOf(name2);
      const column = table.column(at);
      const made3 = withFilled(column, valueAt(value, column.type, table, context));
      cellsChanged += made3.filled;
      result = result.with(at, name2, made3.column, true);
    }
    return { table: result, lineage: { kind: "same" }, cellsChanged };
  },
  trace: {
    cells: ({ columns, with: value }, { before }, column, rows2) => {
      if (!selectedNames(columns, before.schema).includes(column)) return void 0;
      const at = before.positionOf(column);
      const empty = rowsWhere2(rows2, (row) => before.isNull(at, row));
      const filled2 = rowsWhere2(rows2, (row) => !before.isNull(at, row));
      return [
        { column, rows: filled2 },
        { ...isColumnValue(value) ? { column: value.column } : {}, rows: empty }
      ].filter((source) => source.rows.rows.length > 0);
    }
  },
  scripts: {
    sql: ({ columns, with: value }, context) => {
      const part2 = (type) => {
        if (isColumnValue(value)) return widened(context.column(value.column), type);
        if (isParameterValue(value)) return widened(context.parameter(value.parameter), type);
        return literalSql(value, type);
      };
      return selectColumns(
        context,
        Object.fromEntries(
          selected(columns, context.input).map((field) => [
            field.name,
            sql`coalesce(${context.column(field.name)}, ${part2(field.type)})`
          ])
        )
      );
    },
    python: ({ columns, with: value }, { frame, input, parameter, plain: plain4 }) => {
      const [first2] = selected(columns, input);
      if (plain4 && Array.isArray(columns) && selected(columns, input).every(({ type }) => isPlainFill(type, value)))
        return eachColumnPython(
          columns,
          frame,
          (name2) => py`${frame}[${name2}] = ${frame}[${name2}].fillna(${literalPython(value, first2?.type ?? "text")})`
        );
      const choosePut = () => {
        if (isColumnValue(value)) return py`filled_from[${value.column}]`;
        if (isParameterValue(value)) return parameter(value.parameter);
        return literalPython(value, first2?.type ?? "text");
      };
      const put = choosePut();
      const filling = eachColumnPython(
        columns,
        frame,
        (name2) => py`${frame} = ${pyHelper("put")}(${frame}, ${name2}, ${pyHelper("fill_empty")}(${frame}[${name2}], ${put}), ${pyHelper("type_of")}(${frame}[${name2}]))`
      );
      return isColumnValue(value) ? lines(py`filled_from = ${frame}`, filling) : filling;
    }
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column)
});

// core/src/steps/filter/index.ts
import { z as z22 } from "zod";
var comparable2 = (type) => type !== "text" && type !== "boolean";
var listDrafts = (column, list3) => [...new Set(JSON.parse(list3))].filter((item) => item !== null).slice(0, 3).flatMap((item) => {
  const literal3 = typeof item === "string" ? `"${item.replaceAll('"', '""')}"` : String(item).toUpperCase();
  const where2 = { formula: `LISTCONTAINS(${writeColumn(column)}; ${literal3})` };
  const shown = shortened(String(item));
  return [
    { rank: 1, verb: `Keep rows whose list holds \u201C${shown}\u201D`, params: { where: where2 } },
    { rank: 1, verb: `Drop rows whose list holds \u201C${shown}\u201D`, params: { where: where2, keep: false } }
  ];
});
var cellDrafts = (column, text3, type) => {
  const drafts2 = (shown2, where2) => [
    { rank: 1, verb: `Keep rows where ${shown2}`, params: { where: where2 } },
    { rank: 2, verb: `Drop rows where ${shown2}`, params: { where: where2, keep: false } }
  ];
  if (text3 !== null && type === "list") return listDrafts(column, text3);
  if (text3 === null) return drafts2("it is empty", { column, op: "is-empty" });
  const value = valueOfText(text3, type);
  const shown = text3.length > 22 ? `${text3.slice(0, 20)}\u2026` : text3;
  return [
    ...drafts2(`it is \u201C${shown}\u201D`, { column, op: "is", value }),
    ...comparable2(type) ? [
      {
        rank: 3,
        verb: "Keep rows from this value up",
        params: { where: { column, op: "at-least", value } }
      },
      { rank: 4, verb: "Keep rows up to this value", params: { where: { column, op: "at-most", value } } }
    ] : []
  ];
};
var filter = defineStep({
  dropsRows: true,
  kind: "filter",
  verb: "Keep rows where\u2026",
  words: ["filter", "keep", "rows", "where", "drop rows", "remove rows", "condition", "only", "exclude"],
  params: z22.strictObject({ where: conditionSchema, keep: z22.boolean().optional() }),
  drafts: {
    table: ({ schema }) => [{ rank: 10, params: { where: { column: schema[0]?.name ?? "", op: "is-filled" } } }],
    columns: ({ columns: [column = ""] }) => [
      { rank: 10, key: "F", replacedForCell: true, params: { where: { column, op: "is-filled" } } }
    ],
    cell: ({ column, value, schema }) => cellDrafts(column, value, typeIn(schema, column)),
    part: ({ column, value, from, to }) => {
      const where2 = { column, op: "contains", value: value.slice(from, to) };
      const part2 = shortened(value.slice(from, to));
      return [
        { rank: 40, verb: `Keep rows that contain \u201C${part2}\u201D`, params: { where: where2 } },
        { rank: 40, verb: `Drop rows that contain \u201C${part2}\u201D`, params: { where: where2, keep: false } }
      ];
    },
    values: ({ column, values, schema }) => {
      const type = typeIn(schema, column);
      const where2 = { column, op: "is-one-of", values: values.map((value) => valueOfText(value, type)) };
      const one2 = values.length === 1;
      return [
        { rank: 20, verb: one2 ? "Drop the rows with it" : "Drop these rows", params: { where: where2, keep: false } },
        { rank: 20, verb: one2 ? "Keep only the rows with it" : "Keep only these rows", params: { where: where2 } }
      ];
    }
  },
  sentence: ({ where: where2, keep = true }) => [
    slot(
      keep ? "Keep" : "Drop",
      "choice",
      ["keep"],
      [
        ["true", "Keep"],
        ["false", "Drop"]
      ]
    ),
    " the rows where ",
    slot(conditionWords(where2), "condition", ["where"]),
    "."
  ],
  decides: ({ where: where2, keep = true }, input) => decidingColumns(
    where2,
    input,
    keep ? { fails: "leaves", passes: "stays" } : { fails: "stays", passes: "leaves" },
    (condition) => ({ where: condition })
  ),
  output: ({ where: where2 }, input, context) => {
    checkCondition(where2, input, context, "where");
    return input;
  },
  run: ({ where: where2, keep = true }, table, context) => {
    const index = rowsMeeting(where2, table, context, keep);
    return {
      table: table.rows(markComplete(markAscending(index))),
      lineage: { kind: "index", index, kept: index.length }
    };
  },
  trace: {
    leftBy: ({ where: where2 }, { before, context }) => columnsOfCondition(where2, before, context),
    left: ({ where: where2 }, { before, context }, row) => conditionReason(where2, before, context, row),
    did: ({ where: where2 }, { before, context }, row) => `kept, ${conditionReason(where2, before, context, row)}`
  },
  scripts: {
    sql: ({ where: where2, keep = true }, context) => {
      const condition = conditionSql(where2, context);
      return selectColumns(context, {}, sql`\nwhere ${keep ? condition : sql`not (${condition})`}`);
    },
    python: ({ where: where2, keep = true }, context) => {
      const condition = conditionPython(keep ? where2 : { not: where2 }, context);
      return py`${context.frame} = ${context.renumbered(py`${context.frame}[${condition}]`)}`;
    }
  }
});

// core/src/steps/header/index.ts
import { z as z23 } from "zod";
var namesFrom = (cells) => {
  const taken = [];
  for (const [i, cell] of cells.entries()) taken.push(freeName(cell ?? `Column ${i + 1}`, taken));
  return taken;
};
var plainNames = (schema) => schema.map((_, i) => `Column ${i + 1}`);
var namesToRow = (table) => Table.of(
  plainNames(table.schema),
  table.names.map(
    (name2, i) => concat("text", [columnOf("text", [name2]), convert(table.column(i), { type: "text" }).column])
  ),
  table.rowCount + 1
);
var nameRow = (table, row) => table.schema.map(({ type }, c) => {
  const cell = row < table.rowCount ? table.cell(c, row) : null;
  return cell === null ? null : textOfCell(type, cell);
});
var header = defineStep({
  reshapes: true,
  kind: "header",
  verb: "Take the names from a row",
  words: ["header", "promote", "names", "first row", "titles", "demote", "row as header", "headings"],
  params: z23.strictObject({ row: z23.union([z23.number().int().min(1), z23.literal("none")]) }),
  drafts: {
    table: () => [
      { rank: 90, params: { row: 1 } },
      { rank: 90, verb: "Put the names into the first row", params: { row: "none" } }
    ]
  },
  sentence: ({ row }) => row === "none" ? [
    slot(
      "Put the names of the columns into the first row",
      "choice",
      ["row"],
      [
        ["none", "Put the names of the columns into the first row"],
        ["1", "Take the first row for the names of the columns"]
      ]
    ),
    "."
  ] : ["Take row ", slot(String(row), "number", ["row"]), " for the names of the columns."],
  output: ({ row }, input) => row === "none" ? plainNames(input).map((name2) => ({ name: name2, type: "text" })) : [],
  dynamicColumns: ({ row }, input) => {
    if (row === "none") return void 0;
    const types = [...new Set(input.map(({ type }) => type))];
    return () => types.includes("text") ? ["text", ...types.filter((type) => type !== "text")] : [types[0] ?? "text", ...types.slice(1)];
  },
  run: ({ row }, table) => {
    if (row === "none") {
      const index2 = int32s(table.rowCount + 1);
      for (let i = 0; i < index2.length; i++) index2[i] = i - 1;
      return { table: namesToRow(table), lineage: { kind: "index", index: index2 } };
    }
    const index = sliceRows(Math.max(0, table.rowCount - row), row);
    return { table: table.rows(index).renamed(namesFrom(nameRow(table, row - 1))), lineage: { kind: "index", index } };
  },
  trace: {
    left: ({ row }, _step, at) => row !== "none" && at === row - 1 ? "it gave the names of the columns" : "it stands above the names of the columns"
  },
  columnLineage: (_params, input, output) => Object.fromEntries(output.map(({ name: name2 }, i) => [name2, input[i]?.name ?? name2])),
  scripts: {
    sql: ({ row }, { from, input, output, column }) => {
      const pairs = output.map((field, i) => sql`${column(input[i]?.name ?? "")} as ${column(field.name)}`);
      if (row !== "none")
        return sql`select "¶", ${pairs}\nfrom (select *, row_number() over (order by "¶") as "¶n" from ${from}) rows\nwhere "¶n" > ${row}`;
      const first2 = input.map((field, i) => sql`${field.name}::text as ${column(output[i]?.name ?? "")}`);
      return sql`select coalesce((select min("¶") from ${from}), 1) - 1 as "¶", ${joined(first2, ", ")}\nunion all\nselect "¶", ${joined(
        input.map((field) => sql`${sqlHelper("shown")}(${column(field.name)})`),
        ", "
      )} from ${from}`;
    },
    // the row made of the names has a number that a row may have had that left before
    sqlRows: ({ row }, { from }) => row === "none" ? [{ rows: sql`select "¶", "¶" as was from ${from}` }] : void 0,
    spark: "table",
    python: ({ row }, { frame }) => row === "none" ? py`${frame} = ${pyHelper("names_to_row")}(${frame})` : py`${frame} = ${pyHelper("names_from_row")}(${frame}, ${code(String(row))})`
  },
  absorbs: () => true
});

// core/src/steps/join/index.ts
import { z as z24 } from "zod";

// core/src/steps/join/drafts.ts
var draftFor = (key, other, rank3) => [
  {
    rank: rank3,
    ...other === void 0 ? { needs: "table" } : {},
    params: { with: other ?? "", how: "left", on: [{ left: key, right: key }] }
  }
];
var joinDrafts = {
  table: ({ schema, tables: [other] }) => draftFor(schema[0]?.name ?? "", other?.id, 150),
  columns: ({ columns, tables: [other] }) => draftFor(columns[0] ?? "", other?.id, 210)
};

// core/src/steps/join/figures.ts
var joinFigures = ({ notes }) => [
  plainFigure(`${figure(notes.matched ?? 0)} match`, "matched"),
  ...figureIf(notes.unmatchedLeft, (n) => ({
    text: `${figure(n)} unmatched here`,
    tone: "changed",
    only: "unmatched"
  })),
  ...figureIf(
    notes.unmatchedRight,
    (n) => plainFigure(`${figure(n)} unmatched there`, notes.keptThere ? "unmatched-there" : void 0)
  ),
  ...figureIf(notes.multiplied, (n) => ({
    text: `+${figure(n)} by repeated keys`,
    tone: "removed",
    only: "multiplied"
  }))
];

// core/src/steps/join/layout.ts
var onOf = ({ how, on = [] }) => how === "cross" ? [] : on;
var keepsLeft = (how) => how !== "right-only";
var bringsRight = (how) => how !== "left-only";
var keepsRight = (how) => how === "right" || how === "full" || how === "right-only";
var layout2 = (params, input, other) => {
  const { how } = params;
  const on = onOf(params);
  const left = keepsLeft(how) ? input.map((field) => ({
    name: field.name,
    type: keepsRight(how) ? typeTogether([
      field.type,
      ...on.filter((one2) => one2.left === field.name).map((one2) => other.find(({ name: right }) => right === one2.right)?.type ?? field.type)
    ]) : field.type
  })) : [];
  const keys = new Set(on.map(({ right }) => right));
  const chooseWanted = () => {
    if (!bringsRight(how)) return [];
    if (params.bring) return selected(params.bring, other);
    if (how === "right-only") return [...other];
    return other.filter((field) => !keys.has(field.name));
  };
  const wanted = chooseWanted();
  const taken = left.map((field) => field.name);
  const brought = wanted.map((field) => {
    const free = freeName(`${params.prefix ?? ""}${field.name}`, taken);
    taken.push(free);
    return { from: field.name, field: { name: free, type: field.type } };
  });
  return { left, brought, schema: [...left, ...brought.map(({ field }) => field)] };
};

// core/src/steps/join/join-sql.ts
var seenSql2 = (part2, type, { ignoreCase, trim: trim2 }) => {
  if (type !== "text") return part2;
  const cut2 = trim2 ? sql`nullif(${sqlHelper("trim_of")}(${part2}), '')` : part2;
  return ignoreCase ? sql`${sqlHelper("lower_of")}(${cut2})` : cut2;
};
var sqlParts2 = (params, { from, input, column, table }) => {
  const { rows: other, columns } = table(params.with);
  const on = onOf(params);
  const { left, brought } = layout2(params, input, columns);
  const equal = joined(
    on.map(
      (one2) => sql`${seenSql2(sql`l.${column(one2.left)}`, typeIn(input, one2.left) ?? "text", params)} = ${seenSql2(sql`r.${column(one2.right)}`, typeIn(columns, one2.right) ?? "text", params)}`
    ),
    " and "
  );
  const rightPart = brought.map(({ from: one2, field }) => sql`r.${column(one2)} as ${column(field.name)}`);
  const leftPart = left.map((field) => {
    const own2 = typeIn(input, field.name);
    return own2 === field.type ? sql`l.${column(field.name)}` : sql`l.${column(field.name)}::${sqlTypeName(field.type)} as ${column(field.name)}`;
  });
  const aloneLeft = left.map((field) => {
    const key = on.find((one2) => one2.left === field.name);
    return sql`${key ? sql`r.${column(key.right)}` : code("null")}::${sqlTypeName(field.type)} as ${column(field.name)}`;
  });
  const alone2 = sql`select ${code("null::bigint")} as lo, r."¶" as ro, ${code("1")} as n, ${[...aloneLeft, ...rightPart]} from ${other} r where not exists (select from ${from} l where ${equal})`;
  return { other, columns, on, equal, left, brought, leftPart, rightPart, alone: alone2 };
};
var matchedSql = (params, context) => {
  const { how, matches: matches2 = "all" } = params;
  const { from, column } = context;
  const { other, columns, on, equal, leftPart, rightPart, alone: alone2 } = sqlParts2(params, context);
  if (how === "cross")
    return sql`select l."¶" as lo, r."¶" as ro, ${code("1")} as n, ${[...leftPart, ...rightPart]} from ${from} l cross join ${other} r`;
  const keyed = on.map((one2) => seenSql2(column(one2.right), typeIn(columns, one2.right) ?? "text", params));
  const firsts2 = matches2 === "first" ? sql`(select * from (select *, row_number() over (partition by ${keyed} order by "¶") as "¶n" from ${other}) ranked where "¶n" = 1)` : other;
  const counted4 = matches2 === "one" ? sql`${sqlHelper("one_match")}(count(r."¶") over (partition by l."¶"), ${on.map((one2) => one2.left).join(", ")})` : code("1");
  const matched = sql`select l."¶" as lo, r."¶" as ro, ${counted4} as n, ${[...leftPart, ...rightPart]} from ${from} l ${code(how === "left" || how === "full" ? "left join" : "join")} ${firsts2} r on ${equal}`;
  return keepsRight(how) ? sql`${matched}\nunion all ${alone2}` : matched;
};
var numbering = code('row_number() over (order by lo nulls last, ro) as "\xB6"');
var joinSql = (params, context) => {
  const { how, matches: matches2 = "all" } = params;
  const { from, column } = context;
  const { other, on, equal, left, brought, leftPart, alone: alone2 } = sqlParts2(params, context);
  const names3 = [...left, ...brought.map(({ field }) => field)].map((field) => column(field.name));
  if (how === "left-only")
    return sql`select l."¶", ${leftPart}\nfrom ${from} l where not exists (select from ${other} r where ${equal})`;
  if (how === "right-only") return sql`select ro as "¶", ${names3}\nfrom (${alone2}) a`;
  const body = sql`select ${numbering}, ${names3}\nfrom (${matchedSql(params, context)}) m\nwhere n is not null`;
  if (how === "cross" || matches2 !== "all") return body;
  const repeats = sql`select count(*) - 1 as more from ${from} l join ${other} r on ${equal} group by l."¶"`;
  const keys = on.map((one2) => one2.left).join(", ");
  return {
    body,
    after: sql`select ${sqlHelper("keys_single")}(${keys}, sum(more)) as ignored from (${repeats}) t ${psql("gset")}\n`
  };
};
var joinRowsSql = (params, context) => {
  if (params.how === "left-only") return void 0;
  if (params.how === "right-only")
    return [{ table: params.with, rows: sql`select "¶", "¶" as was from ${context.table(params.with).rows}` }];
  const numbered = sql`select ${numbering}, lo, ro from (${matchedSql(params, context)}) m where n is not null`;
  return [
    { rows: sql`select "¶", lo as was from (${numbered}) numbered` },
    { table: params.with, rows: sql`select "¶", ro as was from (${numbered}) numbered` }
  ];
};

// core/src/steps/shared/join-keys.ts
var seen = (column, { ignoreCase, trim: cut2 }) => column.type !== "text" || !ignoreCase && !cut2 ? column : mapText(column, (text3) => ignoreCase ? lower(cut2 ? trim(text3) : text3) : trim(text3));
var codesOfKey = (left, right, how) => {
  const type = typeTogether([left.type, right.type]);
  return sharedCodes(convert(seen(left, how), { type }).column, convert(seen(right, how), { type }).column);
};
var behindOneAnother = ({ left, right, bound }) => {
  const codes = uint32s(left.length + right.length);
  codes.set(left);
  codes.set(right, left.length);
  return { codes, bound };
};
var codesOfIds = (ids, keys) => {
  const codes = uint32s(ids.length);
  for (let i = 0; i < codes.length; i++) codes[i] = ids[i] + 1;
  for (const key of keys) markEmpty(codes, key.codes);
  return codes;
};
var markEmpty = (to, codes) => {
  const n = to.length;
  for (let i = 0; i < n; i++) if (codes[i] === 0) to[i] = 0;
};
var keyCodes = (left, right, how) => {
  const keys = left.map((column, i) => codesOfKey(column, right[i], how));
  const [first2 = { left: uint32s(0), right: uint32s(0), bound: 1 }] = keys;
  if (keys.length <= 1) return first2;
  const stacked3 = keys.map(behindOneAnother);
  const all = stacked3.reduce((a, b) => {
    const { ids, count: count3 } = pairCodes(a, b);
    return { codes: ids, bound: count3 };
  });
  const codes = codesOfIds(all.codes, stacked3);
  const n = first2.left.length;
  return { left: codes.subarray(0, n), right: codes.subarray(n), bound: all.bound + 1 };
};
var bucket = (codes, bound) => {
  const counts2 = kernels().countCodes(codes, bound);
  const starts = int32s(bound + 1);
  for (let g = 1; g < bound; g++) starts[g + 1] = starts[g] + counts2[g];
  const rows2 = int32s(starts[bound]);
  placeRows(codes, starts.slice(), rows2);
  return { starts, rows: rows2 };
};
var placeRows = (codes, next, rows2) => {
  const n = codes.length;
  for (let i = 0; i < n; i++) {
    const code2 = codes[i];
    if (code2 > 0) rows2[next[code2]++] = i;
  }
};

// core/src/steps/join/pairs.ts
var crossRows = (rows2, others) => {
  checkSize("Matching every row with every row", rows2 * others);
  const left = int32s(rows2 * others);
  const right = int32s(rows2 * others);
  for (let l = 0, at = 0; l < rows2; l++)
    for (let r = 0; r < others; r++, at++) {
      left[at] = l;
      right[at] = r;
    }
  return { left, right, notes: { matched: others > 0 ? rows2 : 0, multiplied: Math.max(0, rows2 * (others - 1)) } };
};
var firstOfCodes = (codes, first2) => {
  const n = codes.length;
  let others = 0;
  for (let r = 0; r < n; r++) {
    const code2 = codes[r];
    if (code2 === 0) continue;
    if (first2[code2] < 0) first2[code2] = r;
    else others++;
  }
  return others;
};
var markMet = (codes, met) => {
  const n = codes.length;
  for (let l = 0; l < n; l++) met[codes[l]] = 1;
};
var unmet = (codes, met) => {
  const n = codes.length;
  const rows2 = int32s(n);
  let count3 = 0;
  for (let r = 0; r < n; r++) {
    rows2[count3] = r;
    if (met[codes[r]] === 0) count3++;
  }
  return rows2.slice(0, count3);
};
var rowsAlone = (found2, left) => {
  const n = found2.length;
  let at = 0;
  for (let l = 0; l < n; l++) if (found2[l] < 0) left[at++] = l;
};
var keepFound = (found2, { left, right }) => {
  const n = found2.length;
  let at = 0;
  for (let l = 0; l < n; l++) {
    if (found2[l] < 0) continue;
    left[at] = l;
    right[at++] = found2[l];
  }
};
var countMatches = (codes, starts) => {
  const n = codes.length;
  let matched = 0;
  let matches2 = 0;
  let several = -1;
  for (let l = 0; l < n; l++) {
    const code2 = codes[l];
    const count3 = starts[code2 + 1] - starts[code2];
    if (count3 === 0) continue;
    matched++;
    matches2 += count3;
    if (count3 > 1 && several < 0) several = l;
  }
  return { matched, matches: matches2, several };
};
var fillPairs = (codes, starts, rows2, keepsAlone, { left, right }) => {
  const n = codes.length;
  let at = 0;
  for (let l = 0; l < n; l++) {
    const from = starts[codes[l]];
    const end = starts[codes[l] + 1];
    if (from === end && keepsAlone) {
      left[at] = l;
      right[at++] = -1;
    }
    for (let k = from; k < end; k++) {
      left[at] = l;
      right[at++] = rows2[k];
    }
  }
};
var withRowsBehind = ({ left, right }, behind) => {
  if (behind.length === 0) return { left, right };
  const pairs = { left: int32s(left.length + behind.length), right: int32s(right.length + behind.length) };
  pairs.left.set(left);
  pairs.left.fill(-1, left.length);
  pairs.right.set(right);
  pairs.right.set(behind, right.length);
  return pairs;
};
var pairsOfFound = (how, found2, matched) => {
  const n = found2.length;
  if (how === "left-only") {
    const left = int32s(n - matched);
    rowsAlone(found2, left);
    return { left, right: int32s(n - matched).fill(-1) };
  }
  if (how === "right-only") return { left: int32s(0), right: int32s(0) };
  if (how === "left" || how === "full" || matched === n) return { left: rowsInOrder(n), right: found2 };
  const pairs = { left: int32s(matched), right: int32s(matched) };
  keepFound(found2, pairs);
  return pairs;
};
var pairsOfRepeated = (params, { left: here2, right: there3, bound }, refuse2) => {
  const { starts, rows: rows2 } = bucket(there3, bound);
  const counts2 = countMatches(here2, starts);
  const { matched, matches: matches2, several } = counts2;
  if (params.matches === "one" && several >= 0) refuse2(several, starts[here2[several] + 1] - starts[here2[several]]);
  checkSize("This match", matches2);
  const keepsAlone = params.how === "left" || params.how === "full";
  const total = matches2 + (keepsAlone ? here2.length - matched : 0);
  const pairs = { left: int32s(total), right: int32s(total) };
  fillPairs(here2, starts, rows2, keepsAlone, pairs);
  return { ...pairs, ...counts2 };
};
var pairRows = (params, table, other, names3) => {
  const { how, matches: matches2 = "all" } = params;
  if (how === "cross") return crossRows(table.rowCount, other.rowCount);
  const on = onOf(params);
  const codes = keyCodes(
    on.map((one2) => table.named(one2.left)),
    on.map((one2) => other.named(one2.right)),
    params
  );
  const refuse2 = (row, count3) => {
    throw new DataRefused(
      `${on.map((one2) => `${quoted(one2.left)} ${cellWords(table, one2.left, row)}`).join(", ")} matches ${count3} rows of ${names3}, and only one match is allowed. Take the first, or make the rows there one of each.`
    );
  };
  const first2 = int32s(codes.bound).fill(-1);
  const repeated2 = firstOfCodes(codes.right, first2);
  const met = uint8s(codes.bound);
  const alone2 = how === "left-only" || how === "right-only";
  const several = repeated2 > 0 && matches2 !== "first" && !alone2;
  const found2 = int32s(several ? 0 : table.rowCount);
  const missing2 = several ? 0 : kernels().matchRows(codes.left, first2, met, found2);
  if (several) markMet(codes.left, met);
  met[0] = 0;
  const unmatched = unmet(codes.right, met);
  const behind = keepsRight(how) ? unmatched : int32s(0);
  const counted4 = (matched2, pairs) => ({
    matched: matched2,
    unmatchedLeft: table.rowCount - matched2,
    unmatchedRight: unmatched.length,
    multiplied: pairs - matched2
  });
  if (several) {
    const pairs = pairsOfRepeated(params, codes, refuse2);
    return { ...withRowsBehind(pairs, behind), notes: counted4(pairs.matched, pairs.matches) };
  }
  if (missing2 === 0) markComplete(found2);
  const matched = table.rowCount - missing2;
  return { ...withRowsBehind(pairsOfFound(how, found2, matched), behind), notes: counted4(matched, matched) };
};

// core/src/steps/join/plain-python.ts
var comparesAlike = (params, input, other) => {
  const typeIn2 = (schema, name2) => schema.find((field) => field.name === name2)?.type;
  const on = onOf(params);
  return !params.ignoreCase && !params.trim && on.length > 0 && on.every(({ left, right }) => typeIn2(input, left) !== "list" && typeIn2(input, left) === typeIn2(other, right));
};
var withoutMatch = (params, { frame, renumbered }, other) => {
  const [on, ...more] = onOf(params);
  if (!on || more.length > 0) return void 0;
  return py`${frame} = ${renumbered(py`${frame}[~${frame}[${on.left}].isin(${other}[${on.right}].dropna())]`)}`;
};
var columnsThere = (params, input, other, there3) => {
  const on = onOf(params);
  const { brought } = layout2(params, input, there3);
  const keys = on.map(({ right }) => right);
  const own2 = on.filter(({ left, right }) => left !== right);
  if (brought.some(({ from, field }) => from !== field.name || keys.includes(from))) return void 0;
  if (new Set(keys).size < keys.length || own2.some(({ left }) => there3.some(({ name: name2 }) => name2 === left)))
    return void 0;
  const chosen = params.bring ? py`${other}[${[...keys, ...selected(params.bring, there3).map(({ name: name2 }) => name2)]}]` : other;
  if (own2.length === 0) return chosen;
  const names3 = joined(
    own2.map(({ left, right }) => py`${right}: ${left}`),
    ", "
  );
  return py`${chosen}.rename(columns={${names3}})`;
};
var plainJoin = (params, context) => {
  const { frame, input, table, plain: plain4 } = context;
  const { how, prefix, matches: matches2 = "all" } = params;
  const { frame: other, columns } = table(params.with);
  if (!plain4 || prefix || matches2 === "one" || !comparesAlike(params, input, columns)) return void 0;
  if (how === "left-only") return withoutMatch(params, context, other);
  const there3 = how === "left" || how === "inner" ? columnsThere(params, input, other, columns) : void 0;
  if (!there3) return void 0;
  const keys = onOf(params).map(({ left }) => left);
  const first2 = matches2 === "first" ? py`.drop_duplicates(subset=${keys})` : code("");
  return py`${frame} = ${pyHelper("match")}(${frame}, ${there3}${first2}, ${how}, ${keys})`;
};

// core/src/steps/join/trace.ts
var there = (params, { lineage, context }, rows2) => lineage.kind === "index" && lineage.other ? throughIndex(rows2, lineage.other, context.table(params.with).rowCount) : { rows: new Int32Array(0) };
var filled = (sources) => sources.filter(({ rows: rows2 }) => rows2.rows.length > 0);
var reason = (params, step, row, table) => {
  const { before, context } = step;
  const other = context.table(params.with);
  const on = onOf(params);
  const [own2, from] = table === void 0 ? [before, "left"] : [other, "right"];
  const [names3, into] = table === void 0 ? [context.names(params.with), "right"] : [context.names(""), "left"];
  const values = on.map((pair) => cellWords(own2, pair[from], row)).join(", ");
  const columns = on.map((pair) => pair[into]).join(", ");
  if (on.length === 0) return `${names3} has no rows`;
  if (on.some((pair) => own2.isNull(own2.positionOf(pair[from]), row)))
    return `${on.map((pair) => pair[from]).join(", ")} is empty, which matches nothing`;
  if (params.how === "left-only" || params.how === "right-only" && table !== void 0)
    return `${columns} ${values} is in ${names3}`;
  if (params.how === "right-only") return `only rows of ${context.names(params.with)} are kept`;
  const met = meets2(params, step, row, table);
  return met ? `another row of it is taken for ${columns} ${values}` : `no ${columns} in ${names3} is ${values}`;
};
var meets2 = (params, { before, context }, row, table) => {
  const other = context.table(params.with);
  const [own2, from, far, into] = table === void 0 ? [before, "left", other, "right"] : [other, "right", before, "left"];
  const wanted = onOf(params).map((pair) => cellWords(own2, pair[from], row));
  for (let at = 0; at < far.rowCount; at++)
    if (onOf(params).every((pair, k) => cellWords(far, pair[into], at) === wanted[k])) return true;
  return false;
};
var joinTrace = {
  rows: (params, step, rows2) => filled([{ rows: step.back(rows2) }, { table: params.with, rows: there(params, step, rows2) }]),
  cells: (params, step, column, rows2) => {
    const { before, context, lineage, back } = step;
    if (lineage.kind !== "index") return void 0;
    const { left, brought } = layout2(params, before.schema, context.table(params.with).schema);
    const from = brought.find(({ field }) => field.name === column)?.from;
    if (from !== void 0) return filled([{ table: params.with, column: from, rows: there(params, step, rows2) }]);
    if (!left.some((field) => field.name === column)) return void 0;
    const key = onOf(params).find((pair) => pair.left === column)?.right;
    const alone2 = rowsWhere2(rows2, (row) => lineage.index[row] < 0);
    return filled([
      { column, rows: back(rows2) },
      ...key === void 0 ? [] : [{ table: params.with, column: key, rows: there(params, step, alone2) }]
    ]);
  },
  fromTable: (_params, { lineage, after }, _table, rows2) => {
    const counter = new RowCounter(after.rowCount);
    if (lineage.kind !== "index" || !lineage.other) return counter.done();
    const times2 = timesOfRows(rows2, (rows2.rows.at(-1) ?? -1) + 1);
    for (let row = 0; row < after.rowCount; row++) {
      const met = times2[lineage.other[row]] ?? 0;
      if (met > 0) counter.add(row, met);
    }
    return counter.done();
  },
  leftBy: (params, _step, table) => onOf(params).map((pair) => table === void 0 ? pair.left : pair.right),
  left: reason,
  did: (params, { before, context, lineage }, row) => {
    if (params.how === "left-only") return `kept, ${context.names(params.with)} has none like it`;
    if (lineage.kind !== "index" || params.how === "cross") return void 0;
    const at = lineage.index.indexOf(row);
    if (at < 0 || (lineage.other?.[at] ?? -1) < 0) return `joined with nothing of ${context.names(params.with)}`;
    const values = onOf(params).map(({ left, right }) => `${right} = ${cellWords(before, left, row)}`);
    return `joined with ${context.names(params.with)}, ${values.join(", ")}`;
  }
};

// core/src/steps/join/sides.ts
var here = { side: "here", loses: false };
var there2 = { side: "there", loses: false };
var sidesToMatch = {
  left: [here],
  inner: [{ side: "here", loses: true }],
  right: [there2],
  full: [here, there2],
  "left-only": [],
  "right-only": [],
  cross: []
};

// core/src/steps/join/words.ts
var joinHows = ["left", "inner", "right", "full", "left-only", "right-only", "cross"];
var joinWords = {
  left: "keep every row here",
  inner: "keep only rows that match",
  right: "keep every row there",
  full: "keep every row of both",
  "left-only": "keep only rows here that match nothing there",
  "right-only": "keep only rows there that match nothing here",
  cross: "pair every row with every row"
};
var matchWords = { all: "every match", first: "the first match", one: "one match and no more" };

// core/src/steps/join/index.ts
var alike = (a, b) => a === b || isNumber(a) && isNumber(b);
var keyColumn = (left, right, { field, on, pairs }) => {
  const mine = convert(left.named(on.left), { type: field.type }).column;
  const theirs = convert(right.named(on.right), { type: field.type }).column;
  const alone2 = pairs.left.indexOf(-1);
  if (alone2 < 0) return gather(mine, pairs.left);
  return concat(field.type, [gather(mine, pairs.left.subarray(0, alone2)), gather(theirs, pairs.right.subarray(alone2))]);
};
var join = defineStep({
  dropsRows: true,
  multipliesRows: true,
  unmatchedSides: ({ how }) => sidesToMatch[how],
  workbench: "tables",
  figures: joinFigures,
  refusalFixes: () => [
    { name: "first", words: "Take the first match", params: { matches: "first" } },
    { name: "all", words: "Take every match", params: { matches: "all" } }
  ],
  kind: "join",
  verb: "Match with another table\u2026",
  words: [
    "join",
    "match",
    "lookup",
    "vlookup",
    "merge",
    "combine tables",
    "bring columns",
    "enrich",
    "left join",
    "inner join",
    "anti join"
  ],
  params: z24.strictObject({
    with: z24.string().min(1),
    how: z24.enum(joinHows),
    on: z24.array(z24.strictObject({ left: name, right: name })).optional(),
    ignoreCase: z24.boolean().optional(),
    trim: z24.boolean().optional(),
    bring: selectorSchema.optional(),
    prefix: z24.string().optional(),
    matches: z24.enum(["all", "first", "one"]).optional()
  }).refine(({ how, on }) => how === "cross" || on !== void 0 && on.length > 0, {
    message: "a match needs at least one pair of keys",
    path: ["on"]
  }),
  drafts: joinDrafts,
  sentence: (params, names3) => {
    const { with: other, how, bring, matches: matches2 = "all", ignoreCase, trim: trim2 } = params;
    const on = onOf(params);
    return [
      "Match with ",
      tableSlot(other, "join", ["with"], names3),
      ...on.length > 0 ? [
        " where ",
        slot(
          listed(
            on.map(
              (one2) => one2.left === one2.right ? `${one2.left} is the same` : `${one2.left} is its ${one2.right}`
            )
          ),
          "join",
          ["on"]
        ),
        `${ignoreCase ? ", whatever the case" : ""}${trim2 ? ", spaces at the ends aside" : ""}`
      ] : [],
      ", and ",
      slot(joinWords[how], "join", ["how"]),
      ...how === "left-only" || how === "right-only" ? [] : [
        ", bringing ",
        slot(bring ? selectorWords(bring) : "all its other columns", "join", ["bring"]),
        ...how === "cross" || matches2 === "all" ? [] : [" of ", slot(matchWords[matches2], "join", ["matches"])]
      ],
      "."
    ];
  },
  uses: ({ with: other }) => [other],
  output: (params, input, context) => {
    const other = context.tableColumns(params.with);
    const there3 = inTable(context, params.with);
    onOf(params).forEach((one2, i) => {
      const left = checkColumn(one2.left, input, context, "on", i, "left");
      const right = checkColumn(one2.right, other, there3, "on", i, "right");
      if (left && right && !alike(left.type, right.type))
        context.report(
          { code: "keys-differ", left: left.name, leftType: left.type, right: right.name, rightType: right.type },
          "on",
          i
        );
    });
    if (params.bring) checkSelector(params.bring, other, there3, "bring");
    return layout2(params, input, other).schema;
  },
  run: (params, table, context) => {
    const other = context.table(params.with);
    const pairs = pairRows(params, table, other, context.names(params.with));
    const { left, brought, schema } = layout2(params, table.schema, other.schema);
    const lefts = left.length > 0 ? table.rows(pairs.left) : void 0;
    const rights = other.select(brought.map(({ from }) => other.positionOf(from))).rows(pairs.right);
    let result = lefts ? lefts : Table.of([], [], pairs.left.length);
    if (lefts && keepsRight(params.how))
      for (const on of onOf(params)) {
        const at = left.findIndex((field) => field.name === on.left);
        result = result.with(at, on.left, keyColumn(table, other, { field: left[at], on, pairs }), true);
      }
    const all = result.select(left.map((_, i) => i)).beside(
      rights,
      schema.map((field) => field.name)
    );
    const { how } = params;
    return {
      table: all,
      lineage: {
        kind: "index",
        index: pairs.left,
        other: pairs.right,
        ...how === "left-only" ? { keepsUnmatchedOnly: true } : {}
      },
      notes: keepsRight(how) ? { ...pairs.notes, keptThere: pairs.notes.unmatchedRight ?? 0 } : pairs.notes
    };
  },
  trace: joinTrace,
  columnLineage: (params, input, output) => Object.fromEntries(
    (keepsLeft(params.how) ? input : []).flatMap(
      (field) => output.some((one2) => one2.name === field.name) ? [[field.name, field.name]] : []
    )
  ),
  scripts: {
    sql: (params, context) => joinSql(params, context),
    sqlRows: (params, context) => joinRowsSql(params, context),
    spark: "table",
    python: (params, context) => {
      const plain4 = plainJoin(params, context);
      if (plain4) return plain4;
      const { frame, table } = context;
      const { frame: other, columns } = table(params.with);
      const options3 = [
        ...params.ignoreCase ? [py`, ignore_case=True`] : [],
        ...params.trim ? [py`, trim=True`] : [],
        ...params.bring ? [py`, bring=${selected(params.bring, columns).map((field) => field.name)}`] : [],
        ...params.prefix ? [py`, prefix=${params.prefix}`] : [],
        ...params.matches && params.matches !== "all" ? [py`, matches=${params.matches}`] : []
      ];
      return py`${frame} = ${pyHelper("join_tables")}(${frame}, ${other}, ${params.how}, [${joined(
        onOf(params).map((one2) => py`(${one2.left}, ${one2.right})`),
        ", "
      )}]${joined(options3, "")})`;
    }
  }
});

// core/src/steps/move/index.ts
import { z as z25 } from "zod";
var moved = ({ columns, to }, schema) => {
  const going = [...new Set(selected(columns, schema))];
  const staying = schema.filter((field) => !going.includes(field));
  if (to === "first") return [...going, ...staying];
  if (to === "last") return [...staying, ...going];
  const beside = "before" in to ? to.before : to.after;
  const at = schema.findIndex((field) => field.name === beside);
  const ahead = schema.slice(0, "before" in to ? at : at + 1).filter((field) => !going.includes(field)).length;
  return [...staying.slice(0, ahead), ...going, ...staying.slice(ahead)];
};
var toWords = (to) => {
  if (to === "first") return "to the front";
  if (to === "last") return "to the end";
  if ("before" in to) return `before ${to.before}`;
  return `after ${to.after}`;
};
var move = defineStep({
  kind: "move",
  verb: "Move to another place",
  words: ["move", "order", "reorder", "front", "end", "position", "columns"],
  params: z25.strictObject({
    columns: selectorSchema,
    to: z25.union([z25.enum(["first", "last"]), z25.strictObject({ before: name }), z25.strictObject({ after: name })])
  }),
  drafts: {
    table: ({ schema }) => [
      { rank: 200, verb: "Move columns", params: { columns: [schema.at(-1)?.name ?? ""], to: "first" } }
    ],
    columns: ({ columns }) => [{ rank: 60, verb: "Move to the front", params: { columns, to: "first" } }]
  },
  sentence: ({ columns, to }) => [
    `Move ${columnNoun(columns)}`,
    columnsSlot(columns, "columns"),
    " ",
    slot(
      toWords(to),
      "choice",
      ["to"],
      [
        ["first", "to the front"],
        ["last", "to the end"]
      ]
    ),
    "."
  ],
  output: (params, input, context) => {
    checkSelector(params.columns, input, context, "columns");
    if (typeof params.to === "object") {
      const side = "before" in params.to ? "before" : "after";
      if (!checkColumn("before" in params.to ? params.to.before : params.to.after, input, context, "to", side))
        return input;
    }
    return moved(params, input);
  },
  run: (params, table) => ({
    table: table.select(moved(params, table.schema).map((field) => table.positionOf(field.name))),
    lineage: { kind: "same" }
  }),
  scripts: {
    sql: (_params, context) => selectColumns(context),
    spark: "table",
    python: ({ columns, to }, { frame }) => {
      const names3 = selectorPython(columns, frame);
      if (typeof to === "string") return py`${frame} = ${pyHelper("move_columns")}(${frame}, ${names3}, ${to})`;
      return "before" in to ? py`${frame} = ${pyHelper("move_columns")}(${frame}, ${names3}, before=${to.before})` : py`${frame} = ${pyHelper("move_columns")}(${frame}, ${names3}, after=${to.after})`;
    }
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column)
});

// core/src/steps/number/index.ts
import { z as z26 } from "zod";
var nameOf3 = ({ as }, schema) => freeName(
  as,
  schema.map((field) => field.name)
);
var number2 = defineStep({
  kind: "number",
  verb: "Number the rows",
  words: ["number", "row number", "index", "id", "count up", "sequence", "rank"],
  params: z26.strictObject({
    as: name,
    start: z26.number().int().optional(),
    within: selectorSchema.optional(),
    ...placeSchema
  }),
  drafts: {
    table: () => [{ rank: 70, params: { as: "Number" } }],
    columns: ({ columns }) => [
      {
        rank: 170,
        verb: columns.length === 1 ? "Number the rows of each value" : "Number the rows of each combination",
        params: { as: "Number", within: columns }
      }
    ]
  },
  sentence: ({ as, start = 1, within: within3 }) => [
    "Number the rows from ",
    slot(String(start), "number", ["start"]),
    " as ",
    slot(as, "name", ["as"]),
    ...within3 ? [", anew for each ", slot(selectorWords(within3), "columns", ["within"])] : [],
    "."
  ],
  output: (params, input, context) => {
    if (params.within) checkSelector(params.within, input, context, "within");
    checkPlace(params, input, context);
    return withField(input, { name: nameOf3(params, input), type: "integer" }, params);
  },
  run: (params, table) => {
    const { ids, count: count3 } = groupRows(table, params.within ? selectedNames(params.within, table.schema) : []);
    const next = int32s(Math.max(1, count3)).fill(params.start ?? 1);
    const values = float64s(table.rowCount);
    for (let i = 0; i < values.length; i++) {
      const group = ids[i];
      values[i] = next[group];
      next[group] = next[group] + 1;
    }
    return {
      table: table.with(positionFor(params, table.names), nameOf3(params, table.schema), {
        type: "integer",
        values,
        nulls: void 0
      }),
      lineage: { kind: "same" }
    };
  },
  scripts: {
    sql: (params, context) => {
      const keys = (params.within ? selected(params.within, context.input) : []).map(
        (field) => context.column(field.name)
      );
      return selectColumns(context, {
        [nameOf3(params, context.input)]: sql`row_number() over (${keys.length > 0 ? sql`partition by ${keys} ` : code("")}order by "¶") + ${(params.start ?? 1) - 1}`
      });
    },
    spark: (params, { frame, input }) => py`${frame} = ${sparkHelper("numbered")}(${frame}, ${nameOf3(params, input)}, ${params.start ?? 1}${params.within ? py`, within=${selectorPython(params.within, frame)}` : code("")}${placePython(params)})`,
    python: (params, { frame, input }) => py`${frame} = ${pyHelper("put")}(${frame}, ${nameOf3(params, input)}, ${pyHelper("numbered")}(${frame}, ${params.start ?? 1}${params.within ? py`, within=${selectorPython(params.within, frame)}` : code("")}), "integer"${placePython(params)})`
  }
});

// core/src/steps/open/index.ts
import { z as z27 } from "zod";

// core/src/steps/open/plain-python.ts
var isPlainRead = ({ encoding, delimiter, header: header2 = 1, quote: quote2 = '"', locale, ...read2 }) => encoding !== void 0 && delimiter !== void 0 && typeof header2 === "number" && quote2 === '"' && (!locale || isPlain(locale)) && !read2.range && !read2.skip && !read2.footer && !read2.origin;
var typedColumns = (types, columns, frame) => {
  const byReader = /* @__PURE__ */ new Map();
  for (const name2 of /* @__PURE__ */ new Set([...columns, ...Object.keys(types)])) {
    const reading = ownValue(types, name2);
    if (!reading || reading.type === "text") continue;
    const reader3 = textReader2(reading);
    if (!reader3) return void 0;
    const group = byReader.get(reader3.text) ?? { reader: reader3, type: reading.type, names: [] };
    byReader.set(reader3.text, group);
    group.names.push(name2);
  }
  return lines(
    ...[...byReader.values()].map(
      ({ reader: reader3, type, names: names3 }) => eachColumnPython(
        names3,
        frame,
        (name2) => py`${frame}[${name2}] = ${pyHelper("read_cells")}(${frame}[${name2}], ${reader3}, ${type})`
      )
    )
  );
};
var plainPython3 = (read2, input, { frame, source, follows }) => {
  const { types = "detect" } = read2;
  if (follows || !isPlainRead(read2)) return void 0;
  const { files, columns, open: open2 } = source(input);
  const header2 = read2.header === void 0 || read2.header === 1 ? code("") : py`, header=${read2.header}`;
  const delimiter = read2.delimiter === "," ? code("") : py`, delimiter=${read2.delimiter}`;
  const body = py`${frame} = ${pyHelper("read_csv")}(${files}, ${read2.encoding}${delimiter}${header2})`;
  const each = (names3) => lines(py`for name in ${names3}:`, py`    ${frame}[name] = ${pyHelper("detected")}(${frame}[name])`);
  if (types === "text") return body;
  if (types === "detect") return { body, after: each(py`${frame}.columns`) };
  const typed = typedColumns(
    types,
    columns.map(({ name: name2 }) => name2),
    frame
  );
  if (!typed || columns.length === 0) return void 0;
  const fresh = open2 ? each(code("fresh")) : void 0;
  const after = lines(...typed.text === "" ? [] : [typed], fresh);
  return after.text === "" ? body : { body, after };
};

// core/src/steps/open/index.ts
var delimiterWords = {
  ",": "commas",
  ";": "semicolons",
  "	": "tabs",
  "|": "bars",
  " ": "blanks"
};
var encodingWords = {
  "utf-16le": "UTF-16",
  "utf-16be": "UTF-16",
  "windows-1252": "Windows-1252"
};
var sheetWords = (sheets) => "like" in sheets ? `every sheet named like ${quoted(sheets.like)}${sheets.unlike ? ` but not ${quoted(sheets.unlike)}` : ""}` : `the ${sheets.length === 1 ? "sheet" : "sheets"} ${listed(sheets.map(quoted))}`;
var headerWords = (header2) => typeof header2 === "number" ? `row ${header2}` : `${header2.length === 1 ? "row" : "rows"} ${listed(header2.map(String))}`;
var originWords = ({ file, sheet }) => listed([
  ...file ? [`the file of each row as ${file}`] : [],
  ...sheet ? [`the sheet${file ? "" : " of each row"} as ${sheet}`] : []
]);
var sentence = ({ input, read: read2 = {} }, names3) => {
  const headerPart = () => {
    if (read2.header === "none") return [", which has ", slot("no row of names", "open", ["read", "header"])];
    if (read2.header !== void 0 && read2.header !== 1)
      return [", column names from ", slot(headerWords(read2.header), "open", ["read", "header"])];
    return [];
  };
  return [
    "Open ",
    slot(names3(input, "input"), "open", ["input"]),
    ...read2.path ? [", the list at ", slot(read2.path, "open", ["read", "path"])] : [],
    ...read2.sheets && read2.sheets !== "first" ? [", ", slot(sheetWords(read2.sheets), "open", ["read", "sheets"])] : [],
    ...read2.range ? [", cells ", slot(read2.range, "open", ["read", "range"])] : [],
    ...headerPart(),
    ...read2.delimiter && read2.delimiter !== "," ? [
      ", separated by ",
      slot(ownValue(delimiterWords, read2.delimiter) ?? read2.delimiter, "open", ["read", "delimiter"])
    ] : [],
    ...read2.encoding && ownValue(encodingWords, read2.encoding.toLowerCase()) ? [
      ", written in ",
      slot(ownValue(encodingWords, read2.encoding.toLowerCase()), "open", ["read", "encoding"])
    ] : [],
    ...read2.skip ? [", leaving out ", slot(`${counted(read2.skip, "row")} below the names`, "open", ["read", "skip"])] : [],
    ...read2.footer ? [", leaving out ", slot(`${counted(read2.footer, "row")} at the foot`, "open", ["read", "footer"])] : [],
    ...read2.locale && !isPlain(read2.locale) ? [", numbers with ", slot(localeWords(read2.locale), "open", ["read", "locale"])] : [],
    ...read2.origin?.file || read2.origin?.sheet ? [", noting ", slot(originWords(read2.origin), "open", ["read", "origin"])] : [],
    "."
  ];
};
var typeFor = (read2, column, type) => {
  const given = typeof read2.types === "object" ? ownValue(read2.types, column) : void 0;
  return given ?? { type };
};
var pythonTypes = (types) => typeof types !== "object" ? py`${types ?? "detect"}` : py`{${joined(
  Object.entries(types).map(
    ([column, { type, formats: formats2 = [] }]) => formats2.length > 0 ? py`${column}: (${type}, ${pythonPatterns(formats2)})` : py`${column}: ${type}`
  ),
  ", "
)}}`;
var sheetRowsSql = ({ input, read: given = {} }, source) => {
  const { rows: rows2, format } = source(input);
  const read2 = format === "csv" ? given : asCsv;
  return sql`${sqlHelper("sheet_rows")}(${rows2}, ${headerSql(read2)}, ${read2.skip ?? 0}, ${read2.footer ?? 0}) r`;
};
var open = defineStep({
  kind: "open",
  verb: "Open a file",
  words: ["open", "import", "load", "read", "csv", "file", "upload"],
  start: true,
  opens: ({ input, read: read2 = {} }) => ({ input, read: read2 }),
  params: z27.strictObject({ input: name, read: readSchema.optional() }),
  sentence,
  readingFixes: ({ read: read2 = {} }, column, texts) => {
    const given = typeof read2.types === "object" ? ownValue(read2.types, column) : void 0;
    if (!given) return [];
    const dates = moreDatePatterns(given, texts);
    const numbers4 = otherNumberSigns(given.type, read2.locale, texts);
    if (numbers4)
      return [
        {
          params: { read: { ...read2, locale: numbers4.locale } },
          words: `numbers with ${localeWords(numbers4.locale)}`,
          reads: numbers4.reads
        }
      ];
    if (!dates) return [];
    const types = { ...read2.types, [column]: { ...given, formats: dates.formats } };
    return [
      { params: { read: { ...read2, types } }, words: listed(dates.added.map(formatWords), "or"), reads: dates.reads }
    ];
  },
  output: ({ input, read: read2 }, _schema, context) => {
    const columns = context.inputColumns(input);
    if (!columns) context.report({ code: "unknown-input", input }, "input");
    if (typeof read2?.types === "object")
      for (const [column, { formats: formats2 }] of Object.entries(read2.types))
        checkFormats(formats2, context, "read", "types", column, "formats");
    return columns ?? [];
  },
  run: ({ input, read: read2 = {} }, _table, context) => {
    const { table, notes, unreadable } = context.opened(input, read2);
    return { table, lineage: { kind: "source" }, notes, unreadable };
  },
  scripts: {
    sql: ({ input, read: given = {} }, context) => {
      const { source, column } = context;
      const { columns, format, inFile } = source(input);
      const read2 = format === "csv" ? given : asCsv;
      const parsed = sheetRowsSql({ input, read: given }, source);
      const cells = columns.map((field) => {
        const noted = (part2) => ({ name: field.name, kind: "text", text: part2, read: part2 });
        if (format === "csv" && field.name === read2.origin?.file) return noted(sql`r.file_name`);
        if (format === "csv" && field.name === read2.origin?.sheet) return noted(sql`null::text`);
        const text3 = sql`nullif(r.cells[r.at[${inFile.indexOf(field.name) + 1}]], '')`;
        const typed = typeFor(read2, field.name, field.type);
        return { name: field.name, kind: typed.type, text: text3, read: readSql(text3, { ...typed, locale: read2.locale }) };
      });
      const named2 = cells.map((cell) => sql`${cell.read} as ${column(cell.name)}`);
      return {
        body: sql`select r."¶", ${joined(named2, ",\n  ")}\nfrom ${parsed}`,
        after: unreadSql(cells, parsed, context)
      };
    },
    spark: "table",
    // eslint-disable-next-line complexity -- one line for each reading option, absent where it is the default
    python: ({ input, read: given = {} }, context) => {
      const { frame, source } = context;
      const { files, format, known: known3 } = source(input);
      const plain4 = format === "csv" && Object.keys(known3).length === 0 ? plainPython3(given, input, context) : void 0;
      if (plain4) return plain4;
      const read2 = format === "parquet" ? { ...asCsv, types: given.types } : given;
      const options3 = [
        ...format === "json" && read2.path ? [py`path=${read2.path}`] : [],
        ...read2.encoding ? [py`encoding=${read2.encoding}`] : [],
        ...read2.delimiter ? [py`delimiter=${read2.delimiter}`] : [],
        ...read2.quote && read2.quote !== '"' ? [py`quote=${read2.quote}`] : [],
        ...isWorkbook(format) && read2.sheets && read2.sheets !== "first" ? [py`sheets=${pythonSheets(read2.sheets)}`] : [],
        ...format === "json" ? [] : [
          ...read2.range ? [py`area=${read2.range}`] : [],
          ...headerPython(read2),
          ...read2.skip ? [py`skip=${read2.skip}`] : [],
          ...read2.footer ? [py`footer=${read2.footer}`] : []
        ],
        ...read2.types === void 0 || read2.types === "detect" ? [] : [py`types=${pythonTypes(read2.types)}`],
        ...read2.locale && (read2.locale.decimal !== "." || read2.locale.group !== ",") ? [py`decimal=${read2.locale.decimal}, group=${read2.locale.group}`] : [],
        ...read2.origin?.file ? [py`file_column=${read2.origin.file}`] : [],
        ...read2.origin?.sheet ? [py`sheet_column=${read2.origin.sheet}`] : [],
        ...Object.keys(known3).length > 0 ? [
          py`known={${joined(
            Object.entries(known3).map(([from, to]) => py`${from}: ${to}`),
            ", "
          )}}`
        ] : []
      ];
      const openerName = () => {
        if (isWorkbook(format)) return "open_workbook";
        if (format === "json") return "open_json";
        return "open_csv";
      };
      const opener = pyHelper(openerName());
      return py`${frame} = ${opener}(${files}${options3.length > 0 ? py`, ${joined(options3, ", ")}` : code("")})`;
    }
  }
});
var asCsv = { encoding: "utf-8", delimiter: "," };
var headerSql = (read2) => sql`array[${headerRows(read2)}]::int[]`;
var headerPython = ({ header: header2 }) => header2 === void 0 || header2 === 1 ? [] : [header2 === "none" ? py`header=None` : py`header=${header2}`];
var pythonSheets = (sheets) => {
  if ("like" in sheets) {
    if (sheets.unlike === void 0) return py`{"like": ${sheets.like}}`;
    return py`{"like": ${sheets.like}, "unlike": ${sheets.unlike}}`;
  }
  return py`${sheets}`;
};

// core/src/steps/pivot/index.ts
import { z as z30 } from "zod";

// core/src/steps/shared/trace-measures.ts
var ofOneRow = ["min", "max", "first", "last", "only"];
var isOfOneRow = (how) => ofOneRow.includes(how);
var textOrder4 = compareText(false);
var isBefore = (a, b) => typeof a === "string" ? textOrder4(a, String(b)) < 0 : Number(a) < Number(b);
var replaces = (how, column, row, found2) => {
  if (how === "first" || how === "last") return how === "last" || found2 === void 0;
  const cell = cellAt(column, row);
  if (cell === null) return false;
  if (found2 === void 0) return true;
  const best = cellAt(column, found2);
  if (how === "min") return isBefore(cell, best);
  return how === "max" && isBefore(best, cell);
};
var deciders = (how, values, ids, order2, weight) => {
  const found2 = /* @__PURE__ */ new Map();
  for (let i = 0; i < ids.length; i++) {
    const row = order2 ? order2[i] : i;
    if (weight(row) > 0 && replaces(how, values, row, found2.get(ids[row]))) found2.set(ids[row], row);
  }
  return found2;
};
var measureSources = (table, { how, column }, wanted, ids, order2) => {
  const times2 = timesOfRows(wanted, (wanted.rows.at(-1) ?? -1) + 1);
  const counter = new RowCounter(table.rowCount);
  const weight = (row) => times2[ids[row]] ?? 0;
  if (how === "count" || column === void 0) {
    for (let row = 0; row < ids.length; row++) if (weight(row) > 0) counter.add(row, weight(row));
    return [{ rows: counter.done() }];
  }
  const values = table.named(column);
  if (!isOfOneRow(how)) {
    for (let row = 0; row < ids.length; row++)
      if (weight(row) > 0 && !isNullAt(values, row)) counter.add(row, weight(row));
    return [{ column, rows: counter.done() }];
  }
  for (const [group, row] of deciders(how, values, ids, order2, weight)) counter.add(row, times2[group] ?? 1);
  return [{ column, rows: counter.done() }];
};

// core/src/steps/shared/measures.ts
import { z as z29 } from "zod";

// core/src/steps/shared/sort-keys.ts
import { z as z28 } from "zod";
var sortKeysSchema = z28.array(z28.strictObject({ column: name, descending: z28.boolean().optional(), natural: z28.boolean().optional() })).min(1);
var keyWords = ({ column, descending, natural }) => `${column}${natural ? " in the order of its numbers" : ""}${descending ? " from high to low" : ""}`;
var sortWords = (by) => listed(by.map(keyWords), "then");
var checkSortKeys = (by, schema, context, ...path) => by.forEach(({ column }, i) => checkColumn(column, schema, context, ...path, i, "column"));
var orderOf = (by, table) => sortedOrder(
  by.map(({ column, descending = false, natural = false }) => ({ column: table.named(column), descending, natural })),
  table.rowCount
);
var keySql = ({ column: wanted, descending, natural }, schema, column) => {
  const way = code(descending ? " desc nulls last" : " asc nulls last");
  const part2 = column(wanted);
  const type = schema.find((field) => field.name === wanted)?.type;
  if (type !== "text" && type !== "list") return sql`${part2}${way}`;
  const natural_ = natural ? sql`${sqlHelper("natural_key")}(${part2}) collate "C"${way}, ` : code("");
  return sql`${natural_}${sqlHelper("lower_of")}(${part2}) collate "C"${way}, ${part2} collate "C"${way}`;
};
var sortSql = (by, schema, column) => joined(
  by.map((key) => keySql(key, schema, column)),
  ", "
);
var sortPython = (by) => py`[${joined(
  by.map(
    ({ column, descending = false, natural = false }) => py`(${column}, ${code(descending ? '"descending"' : '"ascending"')}${natural ? code(', "natural"') : code("")})`
  ),
  ", "
)}]`;

// core/src/steps/shared/measures.ts
var countAndTotals = (numbers4, keys) => [
  { how: "count", as: "Rows" },
  ...numbers4.map((column) => ({ how: "sum", column, as: `Total ${column}` }))
].reduce(
  (made3, measure) => [...made3, { ...measure, as: freeName(measure.as, [...keys, ...made3.map(({ as }) => as)]) }],
  []
);
var needsColumn = ({ how, column }) => how === "count" || column !== void 0;
var measureSchema = z29.strictObject({
  how: z29.enum(aggregates),
  column: name.optional(),
  as: name,
  separator: z29.string().optional(),
  order: sortKeysSchema.optional()
}).refine(needsColumn, { message: "this measure needs a column", path: ["column"] });
var wholes = ["count", "filled", "distinct"];
var decimals = ["mean", "median", "deviation", "share"];
var needsNumbers = (how) => ["sum", "mean", "median", "deviation", "share", "running-sum"].includes(how);
var measureType = (how, type) => {
  if (wholes.includes(how)) return "integer";
  if (decimals.includes(how)) return "decimal";
  if (how === "sum") {
    if (type === "integer") return "integer";
    return "decimal";
  }
  if (how === "list") return "list";
  if (how === "join") return "text";
  if (how === "any" || how === "every") return "boolean";
  return type;
};
var measureFields = (measures, keys, input) => {
  const taken = keys.map((field) => field.name);
  return measures.map(({ how, column, as }) => {
    const free = freeName(as, taken);
    taken.push(free);
    return { name: free, type: measureType(how, typeIn(input, column) ?? "integer") };
  });
};
var checkMeasure = ({ how, column, order: order2 }, schema, context, ...path) => {
  const field = column === void 0 ? void 0 : checkColumn(column, schema, context, ...path, "column");
  const chooseNeeds = () => {
    if (!field) return void 0;
    if (needsNumbers(how) && !isNumber(field.type)) return "numbers";
    if ((how === "any" || how === "every") && field.type !== "boolean") return "yes or no";
    if (how === "list" && field.type === "list") return "single values";
    return void 0;
  };
  const needs = chooseNeeds();
  if (field && needs)
    context.report({ code: "wrong-type", column: field.name, type: field.type, needs }, ...path, "column");
  if (order2) checkSortKeys(order2, schema, context, ...path, "order");
};
var howWords = {
  count: "the count of rows",
  filled: "the count of filled",
  distinct: "the different values of",
  sum: "the sum of",
  mean: "the mean of",
  median: "the median of",
  min: "the least",
  max: "the greatest",
  deviation: "the standard deviation of",
  first: "the first",
  last: "the last",
  list: "the list of",
  join: "the joined",
  any: "whether any is",
  every: "whether every is",
  share: "the share of all"
};
var measureWords = ({ how, column, as, separator, order: order2 }) => `${howWords[how]}${how === "count" ? "" : ` ${column ?? ""}`}${how === "join" ? ` with ${separator === "" ? "nothing" : quoted(separator ?? ", ")} between` : ""}${order2 ? ` by ${order2.map((key) => `${key.column}${key.descending ? " from high to low" : ""}`).join(", then ")}` : ""} as ${as}`;
var runMeasure = ({ how, column, separator, order: order2 }, table, groups, type) => {
  const chosen = column !== void 0 && (how === "sum" || how === "mean" || how === "share") ? table.beforeChoice([table.positionOf(column)]) : void 0;
  if (chosen?.rows && !areFew(chosen.rows, chosen.table.rowCount))
    return totalled(how, { whole: chosen.table.column(0), rows: chosen.rows }, groups, type);
  return aggregate(
    { how, separator, order: order2 ? orderOf(order2, table) : void 0 },
    column === void 0 || how === "count" ? void 0 : table.named(column),
    groups,
    type
  );
};
var extremeOrder = (type, cell, way) => type === "text" || type === "list" ? sql`${sqlHelper("lower_of")}(${cell}) collate "C" ${code(way)}, ${cell} collate "C" ${code(way)}` : sql`${cell} ${code(way)}`;
var itemSql2 = (type, cell) => isNumber(type) || type === "boolean" ? sql`${sqlHelper("shown")}(${cell})` : sql`to_json(${sqlHelper("shown")}(${cell}))::text`;
var groupRowsSql = (keys, from, column) => sql`select min("¶") over (${keys.length > 0 ? sql`partition by ${keys.map((field) => column(field.name))}` : code("")}) as "¶", "¶" as was from ${from}`;
var measureSql = ({ how, column: wanted, separator = ", ", order: order2 }, input, column, where2) => {
  const type = typeIn(input, wanted) ?? "integer";
  const cell = wanted === void 0 ? code("*") : column(wanted);
  const filter2 = where2 ? sql` filter (where ${where2})` : code("");
  const filled2 = sql` filter (where ${where2 ? sql`${where2} and ` : code("")}${cell} is not null)`;
  const rows2 = order2 ? sql`${sortSql(order2, input, column)}, "¶"` : code('"\xB6"');
  const total = (part2) => type === "integer" ? sql`sum(${part2})${filter2}` : sql`${sqlHelper("exact_sum")}(${part2} order by "¶")${filter2}`;
  switch (how) {
    case "count":
      return sql`count(*)${filter2}`;
    case "filled":
      return sql`count(${cell})${filter2}`;
    case "distinct":
      return sql`count(distinct ${cell})${filter2}`;
    case "sum":
      return type === "integer" ? sql`${sqlHelper("whole")}(${total(cell)})` : total(cell);
    case "mean":
      return sql`(${total(cell)} / nullif(count(${cell})${filter2}, 0))::float8`;
    case "deviation":
      return sql`${sqlHelper("deviation_of")}(array_agg(${cell}::float8 order by "¶")${filled2})`;
    case "share":
      return type === "integer" ? sql`${sqlHelper("op_divide")}((${total(cell)})::float8, (sum(sum(${cell})) over ())::float8)` : sql`${sqlHelper("op_divide")}(${total(cell)}, ${sqlHelper("exact_sum")}(${sqlHelper("exact_sum")}(${cell} order by "¶")) over ())`;
    case "median":
      return sql`percentile_cont(0.5) within group (order by ${cell}::float8)${filter2}`;
    case "min":
    case "max":
      return sql`(array_agg(${cell} order by ${extremeOrder(type, cell, how === "min" ? "asc" : "desc")})${filled2})[1]`;
    case "first":
      return sql`(array_agg(${cell} order by ${rows2})${filter2})[1]`;
    case "last":
      return sql`(array_agg(${cell} order by ${rows2})${filter2})[(count(*)${filter2})::int]`;
    case "list":
      return sql`${sqlHelper("list_of")}(array_agg(${itemSql2(type, cell)} order by ${rows2})${filled2})`;
    case "join":
      return sql`nullif(string_agg(${sqlHelper("shown")}(${cell}), ${separator} order by ${rows2})${filter2}, '')`;
    case "any":
      return sql`bool_or(${cell})${filter2}`;
    case "every":
      return sql`bool_and(${cell})${filter2}`;
  }
};
var measurePython = ({ how, column, separator, order: order2 }, as, type) => py`(${how}, ${how === "count" ? null : column ?? null}, ${as}, ${type}${joined(
  [
    ...separator === void 0 ? [] : [py`"separator": ${separator}`],
    ...order2 ? [py`"order": ${sortPython(order2)}`] : []
  ].map((part2, i) => i === 0 ? py`, {${part2}` : py`, ${part2}`),
  ""
)}${separator !== void 0 || order2 ? code("}") : code("")})`;

// core/src/steps/pivot/layout.ts
var valueName = ({ column, as }) => as ?? column;
var valueType = ({ how, column }, schema) => how === "only" ? typeIn(schema, column) ?? "text" : measureType(how, typeIn(schema, column) ?? "text");
var dynamicTypesOf = ({ values }, schema, name2) => {
  const named2 = values.filter((value) => name2.endsWith(` ${valueName(value)}`));
  const longest4 = named2.toSorted((a, b) => valueName(b).length - valueName(a).length)[0];
  const [first2, ...others] = (longest4 && values.length > 1 ? [longest4] : values).map(
    (value) => valueType(value, schema)
  );
  return [first2 ?? "text", ...others];
};
var keysFor = ({ by, labels, values }, schema) => {
  const used2 = /* @__PURE__ */ new Set([labels, ...values.map(({ column }) => column)]);
  return by === void 0 ? schema.filter((field) => !used2.has(field.name)) : keysOf(by, schema);
};
var labelText = (label) => label === null || label === "" ? null : String(label);
var layout3 = (params, schema, labels) => {
  const keys = keysFor(params, schema);
  const taken = keys.map((field) => field.name);
  const at = positionFor(params, taken);
  const made3 = labels.flatMap(
    (label) => params.values.map((value) => {
      const plain4 = label ?? "Empty";
      const free = freeName(params.values.length === 1 ? plain4 : `${plain4} ${valueName(value)}`, taken);
      taken.push(free);
      return { label, value, field: { name: free, type: valueType(value, schema) } };
    })
  );
  return { keys, made: made3, at, schema: [...keys.slice(0, at), ...made3.map(({ field }) => field), ...keys.slice(at)] };
};
var labelsOf = (params, column) => {
  const groups = groupBy([column], lengthOf(column));
  const present = Array.from(groups.first, (row) => {
    const cell = cellAt(column, row);
    return cell === null ? null : textOfCell(column.type, cell);
  });
  const labels = params.found ? params.found.map(labelText) : present;
  const at = new Map(labels.map((label, i) => [label, i]));
  const turn = Int32Array.from(present, (label) => at.get(label) ?? -1);
  const some2 = turn.includes(-1);
  const ofRow = new Int32Array(groups.ids.buffer, groups.ids.byteOffset, groups.ids.length);
  const rest = { labels, some: some2, present, groupOf: groups.ids };
  if (turn.every((label, group) => label === group)) return { ...rest, ofRow };
  const turned = int32s(ofRow.length);
  kernels().lookUp(groups.ids, turn, turned);
  return { ...rest, ofRow: turned };
};

// core/src/steps/pivot/trace.ts
var pivotTrace = {
  cells: (params, { before, lineage }, column, rows2) => {
    if (lineage.kind !== "groups") return void 0;
    const { labels, ofRow } = labelsOf(params, before.named(params.labels));
    const made3 = layout3(params, before.schema, labels).made.find(({ field }) => field.name === column);
    if (!made3) return void 0;
    const label = labels.indexOf(made3.label);
    const ids = Int32Array.from(lineage.groups.ids, (group, row) => ofRow[row] === label ? group : -1);
    return measureSources(before, made3.value, rows2, ids);
  }
};

// core/src/steps/pivot/cells.ts
var cellIds = (ids, groups, labels, width) => {
  const n = ids.length;
  for (let i = 0; i < n; i++) ids[i] = groups[i] * width + labels[i];
};
var areInPlace = (groups, labels, width) => {
  const n = groups.length;
  for (let i = 0; i < n; i++) if (groups[i] * width + labels[i] !== i) return false;
  return true;
};
var cellIdsOf = (ids, taken, groups, labels, width) => {
  const n = ids.length;
  for (let i = 0; i < n; i++) ids[i] = groups[taken[i]] * width + labels[taken[i]];
};
var hasRows = ({ ids, count: count3 }) => {
  const held = uint8s(count3);
  const n = ids.length;
  for (let i = 0; i < n; i++) held[ids[i]] = 1;
  return held;
};
var placeAll = (rows2, ids) => {
  const n = ids.length;
  for (let i = 0; i < n; i++) {
    if (rows2[ids[i]] !== -1) return i;
    rows2[ids[i]] = i;
  }
  return -1;
};
var placeFilled = (rows2, ids, column) => {
  for (let i = 0; i < ids.length; i++) {
    if (isNullAt(column, i)) continue;
    if (rows2[ids[i]] !== -1) return i;
    rows2[ids[i]] = i;
  }
  return -1;
};

// core/src/steps/pivot/drafts.ts
var waysToOneValue = (type) => [
  ...type === "integer" || type === "decimal" ? [
    ["sum", "Take their sum"],
    ["mean", "Take their mean"],
    ["max", "Take the largest"]
  ] : [],
  ...type === "date" || type === "datetime" || type === "time" ? [
    ["max", "Take the latest"],
    ["min", "Take the earliest"]
  ] : [],
  ["first", "Take the first"],
  ["last", "Take the last"],
  ["join", "Join them as text"]
];
var byOf = (selected2, column) => {
  const by = selected2.filter((name2) => name2 !== column);
  return by.length > 0 && selected2.includes(column) ? { by } : {};
};
var pivotDrafts = (columns, schema, rank3) => {
  const labels = [...columns].reverse().find((name2) => typeIn(schema, name2) === "text") ?? columns.find((name2) => typeIn(schema, name2) !== "decimal");
  const others = schema.map(({ name: name2 }) => name2).filter((name2) => name2 !== labels);
  const selected2 = columns.length > 1 && columns.length < schema.length ? columns.filter((name2) => name2 !== labels) : [];
  const column = numbersOf(selected2, schema)[0] ?? selected2[0] ?? numbersOf(others, schema)[0] ?? others[0];
  return labels === void 0 || column === void 0 ? [] : [{ rank: rank3, params: { labels, values: [{ column, how: "only" }], ...byOf(selected2, column) } }];
};

// core/src/codegen/python/keywords.ts
var pythonKeywords = new Set(
  "False None True and as assert async await break class continue def del elif else except finally for from global if import in is lambda nonlocal not or pass raise return try while with yield".split(
    " "
  )
);

// core/src/steps/shared/pandas.ts
var figuresOfAll = {
  count: py`${"size"}`,
  filled: py`${"count"}`,
  distinct: py`${"nunique"}`,
  mean: pyHelper("exact_mean")
};
var figuresOfNumbers = { min: py`${"min"}`, max: py`${"max"}`, median: py`${"median"}` };
var pandasFigure = (how, type) => {
  const sum = type === "decimal" ? pyHelper("exact_sum") : pyHelper("integer_sum");
  if (type === "decimal" || type === "integer")
    return how === "sum" ? sum : figuresOfAll[how] ?? figuresOfNumbers[how];
  return figuresOfAll[how];
};
var figuresOfTimes = {
  min: code("lambda x: min(x.dropna(), default=None)"),
  max: code("lambda x: max(x.dropna(), default=None)")
};
var figuresByPlace = { first: code("lambda x: x.iloc[0]"), last: code("lambda x: x.iloc[-1]") };
var changedByAgg = ["datetime", "list"];
var keepsKeys = (keys) => keys.every(({ type }) => !changedByAgg.includes(type));
var pandasAggregate = (how, type) => {
  const figure2 = pandasFigure(how, type);
  if (figure2 || changedByAgg.includes(type)) return figure2;
  return figuresByPlace[how] ?? (type === "date" || type === "time" ? figuresOfTimes[how] : void 0);
};
var onlyValue = (type) => changedByAgg.includes(type) ? void 0 : pyHelper("only_value");
var pandasTypes = {
  integer: "Int64",
  decimal: "float64",
  boolean: "boolean"
};
var namedArgument = (name2, value) => /^[A-Za-z][A-Za-z0-9_]*$/.test(name2) && !pythonKeywords.has(name2) ? py`${code(name2)}=${value}` : py`**{${name2}: ${value}}`;
var sortsAlike = (by) => by.every(({ natural }) => !natural);
var sortedByValues = (frame, by, more = code("")) => {
  const ascending = by.some((key) => key.descending) ? py`, ascending=${by.map((key) => !key.descending)}` : code("");
  return py`${frame}.sort_values(${by.map(({ column }) => column)}${ascending}, key=${pyHelper("text_order")}, kind="stable"${more})`;
};

// core/src/steps/pivot/plain-python.ts
var figureOf = (value, context, keys) => {
  const { how, column } = value;
  const type = typeIn(context.input, column);
  const figure2 = how === "only" ? onlyValue(type) : pandasAggregate(how, type);
  const dtype = pandasTypes[valueType(value, context.input)] ?? "object";
  return figure2 && py`(${valueName(value)}, ${how === "count" ? keys[0] ?? "" : column}, ${figure2}, ${dtype})`;
};
var keysPython = ({ by, labels, values }, frame) => {
  const used2 = [.../* @__PURE__ */ new Set([labels, ...values.map(({ column }) => column)])];
  if (by === void 0) return py`[c for c in ${frame}.columns if c not in ${used2}]`;
  return Array.isArray(by) && by.length === 0 ? code("[]") : selectorPython(by, frame);
};
var plainPivot = (params, context) => {
  const { frame, input, plain: plain4 } = context;
  const { labels, by, values, found: found2, gaps, before, after } = params;
  const fields = keysFor(params, input);
  const keys = fields.map(({ name: name2 }) => name2);
  const isListed = by === void 0 || Array.isArray(by);
  if (!plain4 || !isListed || keys.length === 0 || !keepsKeys(fields) || before !== void 0 || after !== void 0)
    return void 0;
  const figures2 = values.map((value) => figureOf(value, context, keys));
  if (figures2.includes(void 0)) return void 0;
  const rows2 = by === void 0 ? keysPython(params, frame) : py`${[...new Set(keys)]}`;
  const columns = found2 ? py`, found=${found2.map(labelText)}` : code("");
  const type = typeof gaps === "number" && Number.isInteger(gaps) ? "integer" : valueType(values[0], input);
  const filled2 = gaps === void 0 || gaps === null ? code("") : py`, gaps=${literalPython(gaps, type)}`;
  return py`${frame} = ${pyHelper("to_columns")}(${frame}, ${labels}, ${rows2}, [${joined(figures2, ", ")}]${columns}${filled2})`;
};

// core/src/steps/pivot/index.ts
var takenRows = (ofRow) => {
  const rows2 = new IntList();
  for (let i = 0; i < ofRow.length; i++) if (ofRow[i] !== -1) rows2.push(i);
  return rows2.done();
};
var mostCells = 6e7;
var onlyRows = (column, cells, refuse2) => {
  const rows2 = int32s(cells.count).fill(-1);
  const { ids } = cells;
  const mayBeEmpty = isTextColumn(column) || column.nulls !== void 0;
  const twice = mayBeEmpty ? placeFilled(rows2, ids, column) : placeAll(rows2, ids);
  if (twice >= 0) refuse2(twice, rows2[ids[twice]]);
  return rows2;
};
var shareOf = (table, seen2, column, cells) => {
  const totals = runMeasure({ how: "sum", column }, seen2, cells, "decimal").column;
  const grand = Number(
    cellAt(
      runMeasure({ how: "sum", column }, table, { ids: uint32s(table.rowCount), count: 1, first: int32s(0) }, "decimal").column,
      0
    ) ?? 0
  );
  const writer = columnWriter("decimal", cells.count);
  const failures = new IntList();
  for (let i = 0; i < cells.count; i++) {
    const total = cellAt(totals, i);
    if (total === null) continue;
    if (grand === 0) failures.push(i);
    else writer.set(i, Number(total) / grand);
  }
  return { column: writer.done(), failures: failures.done() };
};
var withGaps = (column, held, gap) => {
  if (!held.includes(0)) return column;
  const writer = columnWriter(column.type, held.length);
  for (let i = 0; i < held.length; i++) writer.set(i, held[i] ? cellAt(column, i) : gap ?? null);
  return writer.done();
};
var rowsAt = (table, name2, rows2) => table.select([table.positionOf(name2)]).rows(rows2).column(0);
var ofLabel = (whole5, at, label, width) => new LazyColumn({
  type: whole5.schema[at].type,
  length: whole5.rowCount / width,
  holds: () => whole5.select([at]).buffers,
  cell: (row) => whole5.cell(at, row * width + label),
  make: () => whole5.everyOf(at, width, label)
});
var checkValues = (params, input, context) => params.values.forEach((value, i) => {
  if (value.how === "only") checkColumn(value.column, input, context, "values", i, "column");
  else checkMeasure({ how: value.how, column: value.column }, input, context, "values", i);
  const type = valueType(value, input);
  if (params.gaps !== void 0 && cellFor(params.gaps, type) === void 0)
    context.report({ code: "wrong-value", value: String(params.gaps), column: valueName(value), type }, "gaps");
});
var valueWords2 = ({ how, column, as }) => `${how === "only" ? "the value of" : howWords[how]}${how === "count" ? "" : ` ${column}`}${as === void 0 || as === column ? "" : ` as ${as}`}`;
var written3 = z30.union([z30.string(), z30.number(), z30.boolean(), z30.null()]);
var groupsText = (by) => {
  if (by === void 0) return "combination of the other columns";
  return Array.isArray(by) && by.length === 0 ? "table" : selectorWords(by);
};
var pivot = defineStep({
  reshapes: true,
  shownAfter: true,
  figures: ({ rowsIn, rowsOut, notes }) => [
    plainFigure(`${counted(notes.labels ?? 0, "label")} became columns`),
    plainFigure(`${figure(rowsIn)} \u2192 ${counted(rowsOut, "row")}`),
    ...figureIf(notes.leftOut, (n) => ({ text: `${figure(n)} left out`, tone: "removed", only: "all" }))
  ],
  groupsByNone: true,
  refusalFixes: ({ values }, input) => waysToOneValue(typeIn(input, values.find(({ how }) => how === "only")?.column ?? "")).map(([how, words3]) => ({
    name: how,
    words: words3,
    params: { values: values.map((value) => value.how === "only" ? { ...value, how } : value) }
  })),
  kind: "pivot",
  verb: "Turn rows into columns\u2026",
  words: [
    "pivot",
    "rows to columns",
    "crosstab",
    "cross table",
    "spread",
    "wider",
    "wide",
    "cast wide",
    "matrix",
    "contingency"
  ],
  params: z30.strictObject({
    labels: name,
    values: z30.array(z30.strictObject({ column: name, how: z30.enum([...aggregates, "only"]), as: name.optional() })).min(1),
    by: bySchema.optional(),
    found: z30.array(written3).min(1).optional(),
    gaps: written3.optional(),
    ...placeSchema
  }),
  drafts: {
    table: ({ schema }) => pivotDrafts(
      schema.map(({ name: name2 }) => name2),
      schema,
      110
    ),
    columns: ({ columns, schema }) => pivotDrafts(columns, schema, 200)
  },
  decides: ({ labels, found: found2 }) => found2 ? [
    {
      column: labels,
      unnamed: "no-column",
      named: found2.flatMap((label) => labelText(label) ?? []),
      naming: (more) => ({ found: [...found2, ...more] })
    }
  ] : [],
  sentence: ({ labels, values, by, found: found2, gaps }) => {
    const labelsShown = () => {
      if (found2) {
        if (found2.length > 4)
          return `${found2.slice(0, 3).map((one2) => labelText(one2) ?? "Empty").join(", ")} and ${found2.length - 3} more`;
        return listed(found2.map((one2) => labelText(one2) ?? "Empty"));
      }
      return "whatever comes";
    };
    return [
      "Make a column of each ",
      slot(labels, "oneColumn", ["labels"]),
      " (",
      slot(labelsShown(), "labelsFound", ["found"]),
      ") with ",
      slot(listed(values.map(valueWords2)), "pivotValues", ["values"]),
      ", a row for each ",
      slot(groupsText(by), "columns", ["by"]),
      ", gaps ",
      slot(gaps === void 0 || gaps === null ? "left empty" : `filled with ${String(gaps)}`, "value", ["gaps"]),
      "."
    ];
  },
  output: (params, input, context) => {
    checkColumn(params.labels, input, context, "labels");
    checkValues(params, input, context);
    if (params.by !== void 0) checkBy(params.by, input, context, "by");
    const { keys, schema } = layout3(params, input, params.found?.map(labelText) ?? []);
    checkPlace(params, keys, context);
    return schema;
  },
  dynamicColumns: (params, input) => params.found ? void 0 : (name2) => dynamicTypesOf(params, input, name2),
  run: (params, table) => {
    const { labels, ofRow, some: some2 } = labelsOf(params, table.named(params.labels));
    const { keys, made: made3, at } = layout3(params, table.schema, labels);
    const groups = groupRows(
      table,
      keys.map(({ name: name2 }) => name2)
    );
    const rowCount = keys.length === 0 ? Math.max(1, groups.count) : groups.count;
    if (rowCount * labels.length * params.values.length > mostCells || labels.length > maxColumns)
      throw new DataRefused(
        `${quoted(params.labels)} has ${figure(labels.length)} different values; a column of each would make ${figure(rowCount * labels.length)} cells. Choose another column, or the labels that are wanted.`
      );
    const taken = some2 ? takenRows(ofRow) : void 0;
    const seen2 = taken ? table.rows(taken) : table;
    const count3 = rowCount * labels.length;
    const asItIs = !some2 && count3 === table.rowCount && params.values.every(({ how }) => how === "only") && areInPlace(groups.ids, ofRow, labels.length);
    const keyWords2 = (row) => listed([
      ...keys.map((field) => `${field.name} ${cellWords(seen2, field.name, row)}`),
      `${params.labels} ${cellWords(seen2, params.labels, row)}`
    ]);
    const failures = [];
    const figures2 = () => {
      const ids = uint32s(seen2.rowCount);
      if (taken) cellIdsOf(ids, taken, groups.ids, ofRow, labels.length);
      else cellIds(ids, groups.ids, ofRow, labels.length);
      const cells = { ids, count: count3, first: int32s(0) };
      const columns2 = wholeColumns(params, keyWords2, seen2, table, cells, hasRows(cells), failures, made3, labels);
      return Table.of(params.values.map(valueName), columns2, count3);
    };
    const whole5 = asItIs ? table.select(params.values.map(({ column }) => table.positionOf(column))) : figures2();
    const columns = made3.map(
      ({ label, value }) => ofLabel(whole5, params.values.indexOf(value), labels.indexOf(label), labels.length)
    );
    const keyTable = table.select(keys.map((field) => table.positionOf(field.name))).rows(groups.first);
    const cellsMade = Table.of(
      made3.map(({ field }) => field.name),
      columns,
      rowCount
    );
    return {
      table: keyTable.around(at, cellsMade),
      lineage: { kind: "groups", groups },
      unreadable: failures,
      notes: { labels: labels.length, leftOut: table.rowCount - seen2.rowCount }
    };
  },
  trace: pivotTrace,
  columnLineage: (params, input) => Object.fromEntries(keysFor(params, input).map((field) => [field.name, field.name])),
  scripts: {
    sql: (params, { from, input, output, column }) => {
      const keys = keysFor(params, input);
      const keyNames = new Set(keys.map((field) => field.name));
      const madeNames = output.filter((field) => !keyNames.has(field.name)).map((field) => field.name);
      const labels = params.found?.map(labelText) ?? foundLabels(params, keys, madeNames);
      const { made: made3 } = layout3(params, input, labels);
      const label = sql`${sqlHelper("shown")}(${column(params.labels)})`;
      const cells = made3.map(({ label: one2, value, field }, i) => {
        const here2 = one2 === null ? sql`${label} is null` : sql`${label} = ${one2}`;
        const figure_ = value.how === "only" ? sql`${sqlHelper("only_one")}(array_agg(${column(value.column)} order by "¶") filter (where ${here2} and ${column(value.column)} is not null), ${`${value.column}, ${one2 ?? "Empty"}`})` : measureSql({ how: value.how, column: value.column }, input, column, here2);
        const gap = params.gaps === void 0 || params.gaps === null ? code("null") : literalSql(params.gaps, field.type);
        return {
          name: madeNames[i] ?? field.name,
          part: sql`case when count(*) filter (where ${here2}) > 0 then ${figure_} else ${gap} end`
        };
      });
      const parts2 = output.map((field) => cells.find((one2) => one2.name === field.name)?.part ?? column(field.name));
      const named2 = output.map((field, i) => sql`${parts2[i]} as ${column(field.name)}`);
      const groups = keys.length > 0 ? sql`\ngroup by ${keys.map((field) => column(field.name))}` : code("");
      const body = output.length === 0 ? sql`select "¶"\nfrom ${from}\nwhere false` : sql`select coalesce(min("¶"), 1) as "¶", ${named2}\nfrom ${from}${groups}`;
      const known3 = joined(
        labels.map((one2) => sql`${one2 ?? ""}`),
        ", "
      );
      const after = sql`select ${sqlHelper("labels_known")}(${params.labels}, array[${known3}]::text[], array_agg(label order by place), array_agg(held order by place)) as ignored from (select ${label} as label, count(*) as held, min("¶") as place from ${from} group by 1) t ${psql("gset")}\n`;
      return { body, after };
    },
    sqlRows: (params, { from, input, column }) => [{ rows: groupRowsSql(keysFor(params, input), from, column) }],
    spark: "table",
    python: (params, context) => {
      const plain4 = plainPivot(params, context);
      if (plain4) return plain4;
      const { frame, input } = context;
      const values = params.values.map(
        (value) => measurePython({ how: value.how, column: value.column }, valueName(value), valueType(value, input))
      );
      const found2 = params.found ? py`[${joined(
        params.found.map((one2) => py`${labelText(one2)}`),
        ", "
      )}]` : code("None");
      return py`${frame} = ${pyHelper("pivot")}(${frame}, ${params.labels}, [${joined(values, ", ")}], by=${keysPython(params, frame)}, found=${found2}${params.gaps === void 0 || params.gaps === null ? code("") : py`, gaps=${literalPython(params.gaps, valueType(params.values[0], input))}`}${placePython(params)})`;
    }
  },
  absorbs: (params, column, input) => params.by === void 0 ? column !== params.labels && !params.values.some((value) => value.column === column) : selectedNames(params.by, input).includes(column)
});
var foundLabels = (params, keys, names3) => {
  const width = params.values.length;
  const suffix = width === 1 ? "" : ` ${valueName(params.values[0])}`;
  return names3.filter((_, i) => i % width === 0).map((one2) => {
    const label = suffix !== "" && one2.endsWith(suffix) ? one2.slice(0, -suffix.length) : one2;
    const plain4 = /^(.*) \d+$/.exec(label)?.[1];
    if (label === "Empty") return null;
    if (plain4 !== void 0 && keys.some((key) => key.name === plain4)) return plain4;
    return label;
  });
};
function wholeColumns(params, keyWords2, seen2, table, cells, held, failures, made3, labels) {
  return params.values.map((value) => {
    const refuse2 = (row, first2) => {
      throw new DataRefused(
        `Two values of ${quoted(value.column)} meet in one cell, for ${keyWords2(row)}: ${cellWords(seen2, value.column, first2)} and ${cellWords(seen2, value.column, row)}. Choose a measure such as their sum, or another column that tells the rows apart.`
      );
    };
    const type = valueType(value, table.schema);
    if (value.how === "only")
      return withGaps(
        rowsAt(seen2, value.column, onlyRows(seen2.named(value.column), cells, refuse2)),
        held,
        cellFor(params.gaps ?? null, type)
      );
    const { column, failures: bad } = value.how === "share" ? shareOf(table, seen2, value.column, cells) : runMeasure({ how: value.how, column: value.column }, seen2, cells, type);
    if (bad.length > 0)
      failures.push({
        column: made3.find((one2) => one2.value === value)?.field.name ?? "",
        rows: Int32Array.from(new Set(Array.from(bad, (cell) => Math.floor(cell / labels.length))))
      });
    return withGaps(column, held, cellFor(params.gaps ?? null, type));
  });
}

// core/src/steps/rename/index.ts
import { z as z31 } from "zod";
var cases2 = { lower, upper, title: titleCase };
var changed = (change, text3) => {
  let result = change.trim ? trim(text3) : text3;
  if (change.find) result = result.replaceAll(change.find, () => change.replace ?? "");
  if (change.case) result = cases2[change.case](result);
  return `${change.prefix ?? ""}${result}${change.suffix ?? ""}`;
};
var renamed = ({ names: names3 = {}, change, columns }, schema) => {
  const before = schema.map((field) => field.name);
  const first2 = settle2(
    before.map((one2) => ownValue(names3, one2) ?? one2),
    before
  );
  if (!change) return first2;
  const meant = new Set(
    selectedNames(
      columns ?? { all: true },
      schema.map((field, i) => ({ ...field, name: first2[i] }))
    )
  );
  const wanted = first2.map((one2, i) => meant.has(one2) ? changed(change, one2) || `Column ${i + 1}` : one2);
  return settle2(wanted, first2);
};
var changeWords = (change) => listed([
  ...change.trim ? ["spaces at the ends taken off"] : [],
  ...change.find ? [change.replace ? `\u201C${change.find}\u201D made \u201C${change.replace}\u201D` : `\u201C${change.find}\u201D taken out`] : [],
  ...change.case ? [{ lower: "small letters", upper: "large letters", title: "Large First Letters" }[change.case]] : [],
  ...change.prefix ? [`\u201C${change.prefix}\u201D put before`] : [],
  ...change.suffix ? [`\u201C${change.suffix}\u201D put after`] : []
]);
var sentence2 = ({ names: names3 = {}, change, columns }) => {
  const pairs = Object.entries(names3);
  const [first2] = pairs;
  const chooseNamesPart = () => {
    if (pairs.length === 0) return [];
    if (pairs.length === 1 && first2)
      return ["Rename ", slot(first2[0], "column", ["names"]), " to ", slot(first2[1], "renames", ["names"])];
    return [
      "Rename ",
      slot(
        pairs.length <= 3 ? listed(pairs.map(([old, next]) => `${old} to ${next}`)) : counted(pairs.length, "column"),
        "renames",
        ["names"]
      )
    ];
  };
  const namesPart = chooseNamesPart();
  if (!change) return [...namesPart, "."];
  return [
    ...namesPart.length > 0 ? [...namesPart, "; then write "] : ["Write "],
    "the names of ",
    slot(selectorWords(columns ?? { all: true }), "columns", ["columns"]),
    " with ",
    slot(changeWords(change) || "no change", "change", ["change"]),
    "."
  ];
};
var rename = defineStep({
  kind: "rename",
  verb: "Rename",
  words: ["rename", "name", "header", "title", "label", "call"],
  params: z31.strictObject({
    names: z31.record(name, name).optional(),
    change: z31.strictObject({
      trim: z31.boolean().optional(),
      find: z31.string().min(1).optional(),
      replace: z31.string().optional(),
      case: z31.enum(["lower", "upper", "title"]).optional(),
      prefix: z31.string().optional(),
      suffix: z31.string().optional()
    }).optional(),
    columns: selectorSchema.optional()
  }),
  drafts: {
    table: () => [{ rank: 180, verb: "Tidy the names of columns", params: { change: { trim: true } } }],
    columns: ({ columns: [first2 = "", ...more] }) => more.length > 0 ? [] : [{ rank: 20, key: "F2", params: { names: { [first2]: first2 } } }]
  },
  sentence: sentence2,
  output: (params, input, context) => {
    for (const [old, next] of Object.entries(params.names ?? {})) {
      checkColumn(old, input, context, "names", old);
      if (next === "") context.report({ code: "empty-name" }, "names", old);
    }
    if (params.columns) {
      const middle = renamed({ names: params.names }, input);
      checkSelector(
        params.columns,
        input.map((field, i) => ({ ...field, name: middle[i] })),
        context,
        "columns"
      );
    }
    return renamed(params, input).map((one2, i) => ({ name: one2, type: input[i]?.type ?? "text" }));
  },
  run: (params, table) => ({ table: table.renamed(renamed(params, table.schema)), lineage: { kind: "same" } }),
  columnLineage: (_params, input, output) => Object.fromEntries(output.map((field, i) => [field.name, input[i]?.name ?? field.name])),
  scripts: {
    sql: (_params, { from, input, output, column }) => sql`select ${joined([code('"\xB6"'), ...output.map((field, i) => sql`${column(input[i]?.name ?? field.name)}${field.name === input[i]?.name ? code("") : sql` as ${column(field.name)}`}`)], ", ")}\nfrom ${from}`,
    spark: "table",
    python: ({ names: names3, change, columns }, { frame }) => lines(
      names3 && Object.keys(names3).length > 0 ? py`${frame} = ${pyHelper("rename_columns")}(${frame}, {${joined(
        Object.entries(names3).map(([old, next]) => py`${old}: ${next}`),
        ", "
      )}})` : void 0,
      change ? py`${frame} = ${pyHelper("change_names")}(${frame}, ${selectorPython(columns ?? { all: true }, frame)}, trim=${change.trim ?? false}, find=${change.find ?? null}, replace=${change.replace ?? ""}, case=${change.case ?? null}, prefix=${change.prefix ?? ""}, suffix=${change.suffix ?? ""})` : void 0
    )
  },
  absorbs: ({ change, columns }, column, input) => change !== void 0 && selected(columns ?? { all: true }, input).some((field) => field.name === column)
});

// core/src/steps/replace/index.ts
import { z as z32 } from "zod";
var replacementPairs = (params) => "pairs" in params ? params.pairs : [{ find: params.find, with: params.with }];
var escaped2 = (text3) => text3.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
var isFound = ({ find: find2 }) => find2 !== null && find2 !== "";
var textChanger = (pairs, match, ignoreCase) => {
  if (match === "whole") {
    const see = ignoreCase ? lower : (text3) => text3;
    const known3 = new Map(
      pairs.filter(isFound).map((pair) => [see(String(pair.find)), pair.with === null ? "" : String(pair.with)])
    );
    return (text3) => known3.get(see(text3)) ?? text3;
  }
  const changes2 = pairs.map((pair) => {
    const put = pair.with === null ? "" : String(pair.with);
    if (match === "pattern") {
      const pattern2 = compilePattern(String(pair.find), ignoreCase);
      return (text3) => replaceMatches(text3, pattern2, put);
    }
    if (!ignoreCase) return (text3) => text3.replaceAll(String(pair.find), () => put);
    const any = new RegExp(escaped2(String(pair.find)), "giu");
    return (text3) => text3.replace(any, () => put);
  });
  return (text3) => changes2.reduce((now, change) => now === "" ? now : change(now), text3);
};
var valueColumn = (column, pairs) => {
  const known3 = new Map(
    pairs.map((pair) => [cellFor(pair.find, column.type) ?? null, cellFor(pair.with, column.type) ?? null])
  );
  const n = lengthOf(column);
  const writer = columnWriter(column.type, n);
  for (let i = 0; i < n; i++) {
    const cell = cellAt(column, i);
    writer.set(i, cell !== null && known3.has(cell) ? known3.get(cell) : cell);
  }
  return writer.done();
};
var asPattern = ({ find: find2, with: put }, match) => {
  const into = put === null ? "" : String(put);
  return match === "part" ? [escaped2(String(find2)), into.replaceAll("$", "$$$$")] : [String(find2), into];
};
var pairSql = (part2, type, params) => {
  const { match = "whole", ignoreCase = false } = params;
  const pairs = replacementPairs(params).filter(isFound);
  if (match === "whole" || type !== "text") {
    const see = (one2) => ignoreCase && type === "text" ? sql`${sqlHelper("lower_of")}(${one2})` : one2;
    return sql`case ${joined(
      pairs.toReversed().map(
        (pair) => sql`when ${see(part2)} = ${see(literalSql(pair.find, type))} then ${literalSql(pair.with, type)}`
      ),
      " "
    )} else ${part2} end`;
  }
  return pairs.reduce((now, pair) => {
    const put = pair.with === null ? "" : String(pair.with);
    if (match === "part" && !ignoreCase) return sql`nullif(replace(${now}, ${String(pair.find)}, ${put}), '')`;
    const [pattern2, into] = asPattern(pair, match);
    return sql`nullif(${replacedSql(now, pattern2, into, ignoreCase)}, '')`;
  }, part2);
};
var written4 = z32.union([z32.string(), z32.number(), z32.boolean(), z32.null()]);
var options2 = {
  columns: selectorSchema,
  match: z32.enum(["whole", "part", "pattern"]).optional(),
  ignoreCase: z32.boolean().optional()
};
var pairWords = ({ find: find2, with: put }) => `${valueWords(find2)} by ${put === null || put === "" ? "nothing" : valueWords(put)}`;
var matchWords2 = {
  whole: "as the whole value",
  part: "wherever it stands inside",
  pattern: "as a pattern"
};
var isOfTexts = (params, input) => Array.isArray(params.columns) && selected(params.columns, input).every(({ type }) => type === "text") && replacementPairs(params).every(
  ({ find: find2, with: into }) => [find2, into].every((one2) => typeof one2 === "string" && one2 !== "")
);
var replace = defineStep({
  kind: "replace",
  verb: "Replace a value\u2026",
  words: ["replace", "find", "substitute", "correct", "spelling", "recode", "map", "change value"],
  params: z32.union([
    z32.strictObject({ ...options2, find: written4, with: written4 }),
    z32.strictObject({ ...options2, pairs: z32.array(z32.strictObject({ find: written4, with: written4 })).min(1) })
  ]),
  drafts: {
    columns: ({ columns, schema }) => {
      const texts = textsOf3(columns, schema);
      return texts.length > 0 ? [{ rank: 180, params: { columns: texts, find: " ", with: "", match: "part" } }] : [];
    },
    cell: ({ column, value, schema }) => {
      const type = typeIn(schema, column);
      if (value === null || type === "list") return [];
      const find2 = valueOfText(value, type);
      return [{ rank: 5, verb: "Replace it\u2026", params: { columns: [column], find: find2, with: find2 } }];
    },
    part: ({ column, value, from, to }) => {
      const find2 = value.slice(from, to);
      const params = { columns: [column], find: find2, match: "part" };
      return [
        { rank: 30, verb: `Take \u201C${shortened(find2)}\u201D out everywhere`, params: { ...params, with: null } },
        { rank: 30, verb: `Replace \u201C${shortened(find2)}\u201D\u2026`, params: { ...params, with: find2 } }
      ];
    }
  },
  decides: (params, input) => (params.match ?? "whole") === "whole" ? textsOf3(selectedNames(params.columns, input), input).map((column) => ({
    column,
    unnamed: "stays",
    named: replacementPairs(params).flatMap(({ find: find2 }) => typeof find2 === "string" ? [find2] : []),
    ...params.ignoreCase ? { ignoreCase: true } : {}
  })) : [],
  sentence: (params) => {
    const pairs = replacementPairs(params);
    const shown = pairs.length > 3 ? `${pairs.slice(0, 2).map(pairWords).join(", ")} and ${pairs.length - 2} more` : listed(pairs.map(pairWords));
    return [
      "In ",
      columnsSlot(params.columns, "columns"),
      " replace ",
      slot(shown, "pairs", []),
      ", ",
      slot(matchWords2[params.match ?? "whole"], "choice", ["match"], Object.entries(matchWords2)),
      `${params.ignoreCase ? ", whatever the case" : ""}.`
    ];
  },
  output: (params, input, context) => {
    const pairs = replacementPairs(params);
    for (const field of checkSelector(params.columns, input, context, "columns")) {
      if ((params.match === "part" || params.match === "pattern") && field.type !== "text")
        context.report({ code: "wrong-type", column: field.name, type: field.type, needs: "text" }, "columns");
      else
        pairs.forEach((pair, i) => {
          for (const side of ["find", "with"])
            if (cellFor(pair[side], field.type) === void 0)
              context.report(
                { code: "wrong-value", value: String(pair[side]), column: field.name, type: field.type },
                ..."pairs" in params ? ["pairs", i, side] : [side]
              );
        });
    }
    if (params.match === "pattern")
      pairs.forEach((pair, i) => {
        const why = patternProblem2(String(pair.find));
        if (why)
          context.report(
            { code: "bad-pattern", pattern: String(pair.find), why },
            ..."pairs" in params ? ["pairs", i, "find"] : ["find"]
          );
      });
    return input;
  },
  run: (params, table) => {
    const change = textChanger(replacementPairs(params), params.match ?? "whole", params.ignoreCase ?? false);
    let result = table;
    let cellsChanged = 0;
    for (const name2 of selectedNames(params.columns, table.schema)) {
      const at = table.positionOf(name2);
      const before = table.column(at);
      const after = before.type === "text" ? mapText(before, change) : valueColumn(before, replacementPairs(params));
      for (let i = 0, n = lengthOf(before); i < n; i++) if (cellAt(before, i) !== cellAt(after, i)) cellsChanged++;
      result = result.with(at, name2, after, true);
    }
    return { table: result, lineage: { kind: "same" }, cellsChanged };
  },
  scripts: {
    sql: (params, context) => selectColumns(
      context,
      Object.fromEntries(
        selected(params.columns, context.input).map((field) => [
          field.name,
          pairSql(context.column(field.name), field.type, params)
        ])
      )
    ),
    python: (params, { frame, input, plain: plain4 }) => {
      const { match = "whole", ignoreCase = false } = params;
      const type = selected(params.columns, input)[0]?.type ?? "text";
      if (plain4 && match === "whole" && !ignoreCase && isOfTexts(params, input))
        return eachColumnPython(
          params.columns,
          frame,
          (name2) => py`${frame}[${name2}] = ${frame}[${name2}].replace({${joined(
            replacementPairs(params).map((pair) => py`${pair.find}: ${pair.with}`),
            ", "
          )}})`
        );
      const byPattern = match === "pattern" || match === "part" && ignoreCase;
      const pairs = replacementPairs(params).filter(isFound).map((pair) => {
        if (!byPattern) return py`(${literalPython(pair.find, type)}, ${literalPython(pair.with, type)})`;
        const [pattern2, into] = asPattern(pair, match);
        return py`(${patternPython(pattern2, ignoreCase)}, ${replacementPython(into)})`;
      });
      const wholeOptions = ignoreCase ? code(", ignore_case=True") : code("");
      const options3 = match === "whole" ? wholeOptions : py`, ${byPattern ? "pattern" : match}`;
      return eachColumnPython(
        params.columns,
        frame,
        (name2) => py`${frame}[${name2}] = ${pyHelper("replace_values")}(${frame}[${name2}], [${joined(pairs, ", ")}]${options3})`
      );
    }
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column)
});

// core/src/steps/select/index.ts
import { z as z33 } from "zod";
var kept = ({ columns, rest }, schema) => {
  const first2 = [...new Set(selected(columns, schema))];
  return rest === "after" ? [...first2, ...schema.filter((field) => !first2.includes(field))] : first2;
};
var select2 = defineStep({
  dropsUnnamed: true,
  kind: "select",
  verb: "Keep only these columns",
  words: ["select", "keep", "columns", "order", "choose", "reorder", "projection"],
  params: z33.strictObject({ columns: selectorSchema, rest: z33.enum(["drop", "after"]).optional() }),
  drafts: {
    table: ({ schema }) => [
      { rank: 170, verb: "Keep only some columns", params: { columns: schema.map(({ name: name2 }) => name2) } }
    ],
    columns: ({ columns }) => [
      {
        rank: 50,
        verb: columns.length === 1 ? "Keep only this column" : "Keep only these columns",
        params: { columns }
      }
    ]
  },
  sentence: ({ columns, rest }) => rest === "after" ? [`Put ${columnNoun(columns)}`, columnsSlot(columns, "columns"), " first, ", restSlot("after"), "."] : [`Keep ${columnNoun(columns)}`, columnsSlot(columns, "columns"), " in this order, and ", restSlot("drop"), "."],
  output: (params, input, context) => {
    checkSelector(params.columns, input, context, "columns");
    const left = kept(params, input);
    if (left.length === 0) context.report({ code: "no-columns-left" }, "columns");
    return left;
  },
  run: (params, table) => {
    const positions = kept(params, table.schema).map((field) => table.positionOf(field.name));
    return { table: table.select(positions), lineage: { kind: "same" } };
  },
  scripts: {
    sql: (_params, context) => selectColumns(context),
    spark: "table",
    python: ({ columns, rest }, { frame }) => {
      const names3 = selectorPython(columns, frame);
      return rest === "after" ? py`${frame} = ${pyHelper("columns_first")}(${frame}, ${names3})` : py`${frame} = ${frame}[${names3}]${code("")}`;
    }
  },
  absorbs: ({ columns, rest }, column, input) => rest === "after" || selectedNames(columns, input).includes(column)
});
var restSlot = (rest) => slot(
  rest === "after" ? "the others after them" : "drop the others",
  "choice",
  ["rest"],
  [
    ["drop", "drop the others"],
    ["after", "the others after them"]
  ]
);

// core/src/steps/slice/index.ts
import { z as z34 } from "zod";
var count2 = z34.number().int().min(0);
var spanOf = (params, rows2) => {
  if ("first" in params) return sliceRows(Math.min(params.first, rows2));
  if ("last" in params) return sliceRows(Math.min(params.last, rows2), Math.max(0, rows2 - params.last));
  if ("skip" in params) return sliceRows(Math.max(0, rows2 - params.skip), params.skip);
  return sliceRows(Math.ceil(rows2 / params.every), 0, params.every);
};
var words2 = (params) => {
  if ("first" in params) return `the first ${counted(params.first, "row")}`;
  if ("last" in params) return `the last ${counted(params.last, "row")}`;
  if ("skip" in params) return `all but the first ${counted(params.skip, "row")}`;
  if (params.every === 1) return "every row";
  return `one row in ${params.every}`;
};
var slice = defineStep({
  kind: "slice",
  verb: "Keep the first, last or every n-th row",
  words: ["slice", "limit", "top", "head", "tail", "sample", "skip", "first rows", "last rows"],
  params: z34.union([
    z34.strictObject({ first: count2 }),
    z34.strictObject({ last: count2 }),
    z34.strictObject({ skip: count2 }),
    z34.strictObject({ every: z34.number().int().min(1) })
  ]),
  drafts: { table: () => [{ rank: 50, params: { first: 100 } }] },
  sentence: (params) => ["Keep ", slot(words2(params), "slice", []), "."],
  output: (_params, input) => input,
  run: (params, table) => {
    const index = spanOf(params, table.rowCount);
    return { table: table.rows(index), lineage: { kind: "index", index, kept: index.length } };
  },
  trace: {
    leftBy: () => [],
    left: (params) => `it is not of ${words2(params)}`,
    did: (params) => `kept, of ${words2(params)}`
  },
  scripts: {
    sql: (params, { from, output, column }) => {
      const chooseCondition = () => {
        if ("first" in params) return sql`"¶n" <= ${params.first}`;
        if ("last" in params) return sql`"¶n" > "¶all" - ${params.last}`;
        if ("skip" in params) return sql`"¶n" > ${params.skip}`;
        return sql`("¶n" - 1) % ${params.every} = 0`;
      };
      const condition = chooseCondition();
      return sql`select "¶", ${output.map((field) => column(field.name))}\nfrom (select *, row_number() over (order by "¶") as "¶n", count(*) over () as "¶all" from ${from}) numbered\nwhere ${condition}`;
    },
    spark: (params, { frame }) => {
      const [way = "", n = 0] = Object.entries(params)[0] ?? [];
      return py`${frame} = ${sparkHelper("some_rows")}(${frame}, ${code(way)}=${n})`;
    },
    python: (params, { frame, renumbered }) => {
      const chooseRows = () => {
        if ("first" in params) return py`.head(${params.first})`;
        if ("last" in params) return py`.tail(${params.last})`;
        if ("skip" in params) return py`.iloc[${params.skip}:]`;
        return py`.iloc[::${params.every}]`;
      };
      const rows2 = chooseRows();
      return py`${frame} = ${renumbered(py`${frame}${rows2}`)}`;
    }
  }
});

// core/src/steps/sort/index.ts
import { z as z35 } from "zod";
var sort = defineStep({
  kind: "sort",
  verb: "Sort the rows",
  words: ["sort", "order", "arrange", "ascending", "descending", "a to z", "largest", "newest"],
  params: z35.strictObject({ by: sortKeysSchema }),
  drafts: {
    table: ({ schema }) => [{ rank: 40, params: { by: [{ column: schema[0]?.name ?? "" }] } }],
    columns: ({ columns }) => [
      {
        rank: 250,
        key: "S",
        verb: `Sort by ${columns.length === 1 ? "it" : "them"}`,
        params: { by: columns.map((column) => ({ column })) }
      }
    ]
  },
  sentence: ({ by }) => ["Sort the rows by ", slot(sortWords(by), "sortKeys", ["by"]), "."],
  output: ({ by }, input, context) => {
    checkSortKeys(by, input, context, "by");
    return input;
  },
  run: ({ by }, table) => {
    const index = orderOf(by, table);
    return { table: table.rows(markComplete(index)), lineage: { kind: "index", index, kept: index.length } };
  },
  scripts: {
    sql: ({ by }, { from, input, output, column }) => sql`select row_number() over (order by ${sortSql(by, input, column)}, "¶") as "¶", ${output.map((field) => column(field.name))}\nfrom ${from}`,
    sqlRows: ({ by }, { from, input, column }) => [
      {
        rows: sql`select row_number() over (order by ${sortSql(by, input, column)}, "¶") as "¶", "¶" as was from ${from}`
      }
    ],
    spark: "table",
    python: ({ by }, { frame, plain: plain4 }) => plain4 && sortsAlike(by) ? py`${frame} = ${sortedByValues(frame, by, code(", ignore_index=True"))}` : py`${frame} = ${pyHelper("sort_rows")}(${frame}, ${sortPython(by)})`
  }
});

// core/src/steps/split/index.ts
import { z as z36 } from "zod";

// core/src/steps/shared/pieces.ts
var cutsAtText = (delimiter) => (text3) => {
  const cuts = [];
  for (let at = text3.indexOf(delimiter); at >= 0; at = text3.indexOf(delimiter, at + delimiter.length))
    cuts.push([at, at + delimiter.length]);
  return cuts;
};
var cutsAtPattern = (pattern2) => {
  const compiled4 = compilePattern(pattern2, false);
  return (text3) => {
    const cuts = [];
    const matcher = compiled4.matcher(text3);
    while (matcher.find()) if (matcher.end() > matcher.start()) cuts.push([matcher.start(), matcher.end()]);
    return cuts;
  };
};
var cutsAtWidths = (widths) => (text3) => {
  const signs2 = Array.from(text3);
  const cuts = [];
  let units3 = 0;
  let at = 0;
  for (const width of widths.slice(0, -1)) {
    for (const end = at + width; at < end && at < signs2.length; at++) units3 += signs2[at].length;
    if (at >= signs2.length) break;
    cuts.push([units3, units3]);
  }
  return cuts;
};
var piecesOf = (text3, cuts, at, most = Infinity) => {
  const all = cuts(text3);
  const chooseUsed = () => {
    if (at === "every") return all;
    if (at === "first") return all.slice(0, 1);
    return all.slice(-1);
  };
  const used2 = chooseUsed();
  const pieces = [];
  let from = 0;
  for (const [start, end] of used2) {
    if (pieces.length + 1 >= most) break;
    pieces.push(text3.slice(from, start));
    from = end;
  }
  pieces.push(text3.slice(from));
  return pieces;
};

// core/src/steps/split/index.ts
var cutsOf = (by) => {
  if ("delimiter" in by) return cutsAtText(by.delimiter);
  if ("pattern" in by) return cutsAtPattern(by.pattern);
  return cutsAtWidths(by.widths);
};
var wantedNames = ({ column, into }, found2) => {
  if (into === "rows") return [column];
  if (into.columns === "found") return Array.from({ length: Math.max(1, found2) }, (_, i) => `${column} ${i + 1}`);
  return into.columns;
};
var layout4 = (params, input, found2) => {
  const at = input.findIndex((field) => field.name === params.column);
  const rest = params.keep ? input : input.filter((_, i) => i !== at);
  const taken = rest.map((field) => field.name);
  const made3 = wantedNames(params, found2).map((wanted) => {
    const free = freeName(wanted, taken);
    taken.push(free);
    return free;
  });
  const place = params.keep ? at + 1 : at;
  const fields = made3.map((one2) => ({ name: one2, type: "text" }));
  return { schema: [...rest.slice(0, place), ...fields, ...rest.slice(place)], made: made3, at: place };
};
var withColumns = (table, params, made3) => {
  const { schema, at } = layout4(params, table.schema, made3.length);
  const rest = params.keep ? table : table.select(table.names.flatMap((one2, i) => one2 === params.column ? [] : [i]));
  return Table.of(
    schema.map((field) => field.name),
    schema.map(
      (_, i) => i >= at && i < at + made3.length ? made3[i - at] : rest.column(i < at ? i : i - made3.length)
    ),
    table.rowCount
  );
};
var intoColumns = (params, table) => {
  const { indices, dictionary: dictionary2 } = asDictionary(table.named(params.column));
  const cuts = cutsOf(params.by);
  const named2 = params.into.columns === "found" ? void 0 : params.into.columns.length;
  const at = params.at ?? "every";
  const all = dictionary2.map((word2) => word2 === "" ? [] : piecesOf(word2, cuts, at));
  const pieces = named2 === void 0 ? all : dictionary2.map((word2, i) => (all[i]?.length ?? 0) <= named2 ? all[i] ?? [] : piecesOf(word2, cuts, at, named2));
  let most = 0;
  let beyond = 0;
  for (const word2 of indices) {
    const count3 = all[word2]?.length ?? 0;
    if (count3 > most) most = count3;
    if (named2 !== void 0 && count3 > named2) beyond++;
  }
  const index = Int32Array.from(indices);
  const columns = Array.from({ length: named2 ?? Math.max(1, most) }, (_, n) => {
    const writer = columnWriter("text", dictionary2.length);
    pieces.forEach((list3, i) => writer.set(i, list3[n] || null));
    return gather(writer.done(), index);
  });
  return {
    table: withColumns(table, params, columns),
    lineage: { kind: "same" },
    notes: { pieces: most, ...beyond > 0 ? { rowsWithMorePieces: beyond } : {} }
  };
};
var intoRows = (params, table) => {
  const column = table.named(params.column);
  const cuts = cutsOf(params.by);
  const index = new IntList();
  const cells = [];
  let most = 0;
  for (let row = 0, n = lengthOf(column); row < n; row++) {
    const pieces = piecesOf(textAt(column, row), cuts, params.at ?? "every");
    if (pieces.length > most) most = pieces.length;
    checkSize("A row for each piece", index.length + pieces.length);
    for (const piece of pieces) {
      index.push(row);
      cells.push(piece);
    }
  }
  const rows2 = index.done();
  const writer = columnWriter("text", cells.length);
  cells.forEach((piece, i) => writer.set(i, piece || null));
  return {
    table: withColumns(table.rows(rows2), params, [writer.done()]),
    lineage: { kind: "index", index: rows2 },
    notes: { pieces: most }
  };
};
var separatorNames = /* @__PURE__ */ new Map([
  [" ", "blank"],
  ["\n", "line break"],
  ["	", "tab"]
]);
var byWords2 = (by, at) => {
  const each = at === "every" ? "every" : `the ${at}`;
  if ("widths" in by) return `after ${listed(by.widths.map(String))} characters`;
  if ("pattern" in by) return `at ${each} match of ${by.pattern}`;
  return `at ${each} ${separatorNames.get(by.delimiter) ?? quoted(by.delimiter)}`;
};
var intoWords = (into) => {
  if (into === "rows") return "a row for each piece";
  if (into.columns === "found") return "as many columns as there are pieces";
  return listed(into.columns);
};
var piecesSql2 = (cell, { by, at = "every" }, most) => {
  if ("widths" in by)
    return sql`${sqlHelper("pieces_by_widths")}(${cell}, array[${code(by.widths.join(", "))}], ${most})`;
  if ("pattern" in by) return piecesSql(cell, by.pattern, at, most);
  return sql`${sqlHelper("pieces_by_text")}(${cell}, ${by.delimiter}, ${at}, ${most})`;
};
var cutterPython = ({ by, at = "every" }) => {
  if ("widths" in by) return py`${pyHelper("cuts_by_widths")}([${code(by.widths.join(", "))}]), ${"every"}`;
  if ("pattern" in by) return py`${pyHelper("cuts_by_pattern")}(${patternPython(by.pattern)}), ${at}`;
  return py`${pyHelper("cuts_by_text")}(${by.delimiter}), ${at}`;
};
var unlimited = 2e9;
var signIn = (text3) => ["; ", ";", " | ", "|", ", ", ",", "	", "\n", " / ", "/", " - "].find((sign2) => text3.includes(sign2));
var signOfMost = (texts) => {
  const signs2 = texts.flatMap((text3) => signIn(text3) ?? []);
  const count3 = (sign2) => signs2.filter((one2) => one2 === sign2).length;
  return signs2.reduce((best, sign2) => count3(sign2) > count3(best) ? sign2 : best, signs2[0] ?? ";");
};
var piecesInRows = (params, from, column) => sql`${from} t cross join lateral unnest(coalesce(${piecesSql2(sql`t.${column(params.column)}`, params, unlimited)}, array[null]::text[])) with ordinality as u(piece, n)`;
var split = defineStep({
  reshapes: true,
  kind: "split",
  verb: "Split the text\u2026",
  words: [
    "split",
    "separate",
    "delimiter",
    "text to columns",
    "parse",
    "divide",
    "list in a cell",
    "explode",
    "pieces",
    "fixed width"
  ],
  params: z36.strictObject({
    column: name,
    by: z36.union([
      z36.strictObject({ delimiter: z36.string().min(1) }),
      z36.strictObject({ pattern: z36.string().min(1) }),
      z36.strictObject({ widths: z36.array(z36.number().int().min(1)).min(1) })
    ]),
    at: z36.enum(["every", "first", "last"]).optional(),
    into: z36.union([
      z36.literal("rows"),
      z36.strictObject({ columns: z36.union([z36.array(name).min(1), z36.literal("found")]) })
    ]),
    keep: z36.boolean().optional()
  }),
  drafts: {
    columns: ({ columns: [column = "", ...more], schema, sample }) => more.length === 0 && typeIn(schema, column) === "text" ? [
      {
        rank: 130,
        params: {
          column,
          by: { delimiter: signOfMost(sample?.(column)?.texts ?? []) },
          into: { columns: "found" }
        }
      }
    ] : [],
    cell: ({ column, value, schema }) => {
      const sign2 = value === null || typeIn(schema, column) !== "text" ? void 0 : signIn(value);
      return sign2 === void 0 ? [] : [
        {
          rank: 8,
          verb: `Split at every \u201C${sign2}\u201D`,
          params: { column, by: { delimiter: sign2 }, into: { columns: "found" } }
        }
      ];
    },
    part: ({ column, value, from, to }) => {
      const by = { delimiter: value.slice(from, to) };
      const part2 = shortened(by.delimiter);
      return [
        { rank: 20, verb: `Split at every \u201C${part2}\u201D`, params: { column, by, into: { columns: "found" } } },
        { rank: 20, verb: `Split at \u201C${part2}\u201D into rows`, params: { column, by, into: "rows" } },
        {
          rank: 20,
          verb: "Split here, once",
          params: { column, by, at: "first", into: { columns: [`${column} 1`, `${column} 2`] } }
        }
      ];
    }
  },
  sentence: ({ column, by, at = "every", into, keep }) => [
    "Split ",
    slot(column, "oneColumn", ["column"]),
    " ",
    slot(byWords2(by, at), "separator", []),
    " into ",
    slot(intoWords(into), "pieces", ["into"]),
    ", and ",
    slot(
      keep ? "keep it" : "drop it",
      "choice",
      ["keep"],
      [
        ["true", "keep it"],
        ["false", "drop it"]
      ]
    ),
    "."
  ],
  output: (params, input, context) => {
    const field = checkColumn(params.column, input, context, "column");
    if (field && field.type !== "text")
      context.report({ code: "wrong-type", column: field.name, type: field.type, needs: "text" }, "column");
    if ("widths" in params.by && params.at !== void 0) context.report({ code: "widths-with-at" }, "at");
    const why = "pattern" in params.by ? patternProblem2(params.by.pattern) : void 0;
    if (why && "pattern" in params.by)
      context.report({ code: "bad-pattern", pattern: params.by.pattern, why }, "by", "pattern");
    return field ? layout4(params, input, 1).schema : input;
  },
  dynamicColumns: ({ into }) => into !== "rows" && into.columns === "found" ? () => ["text"] : void 0,
  run: (params, table) => params.into === "rows" ? intoRows(params, table) : intoColumns({ ...params, into: params.into }, table),
  trace: {
    cells: (params, { before, back }, column, rows2) => {
      const isPiece = column === params.column ? !params.keep : before.positionOf(column) < 0;
      return isPiece ? [{ column: params.column, rows: back(rows2) }] : void 0;
    }
  },
  columnLineage: (params, input, output) => Object.fromEntries(
    input.flatMap(
      (field) => (params.keep || params.into === "rows" || field.name !== params.column) && output.some((one2) => one2.name === field.name) ? [[field.name, field.name]] : []
    )
  ),
  scripts: {
    sql: (params, { from, input, output, column }) => {
      const made3 = output.filter((field) => !input.some((one2) => one2.name === field.name && (params.keep || one2.name !== params.column))).map((field) => field.name);
      const cell = sql`t.${column(params.column)}`;
      const names3 = output.map(
        (field) => made3.includes(field.name) ? sql`nullif(${params.into === "rows" ? code("u.piece") : sql`p.pieces[${made3.indexOf(field.name) + 1}]`}, '') as ${column(field.name)}` : sql`t.${column(field.name)}`
      );
      if (params.into === "rows")
        return sql`select row_number() over (order by t."¶", u.n) as "¶", ${names3}\nfrom ${piecesInRows(params, from, column)}`;
      return sql`select t."¶", ${names3}\nfrom ${from} t cross join lateral (select ${piecesSql2(cell, params, params.into.columns === "found" ? unlimited : made3.length)}) as p(pieces)`;
    },
    sqlRows: (params, { from, column }) => params.into === "rows" ? [
      {
        rows: sql`select row_number() over (order by t."¶", u.n) as "¶", t."¶" as was from ${piecesInRows(params, from, column)}`
      }
    ] : void 0,
    spark: (params, context) => {
      if (params.into === "rows") return "repeats";
      if (params.into.columns !== "found") return "rows";
      const rest = joined([cutterPython(params), ...params.keep ? [code("keep=True")] : []], ", ");
      return py`${context.frame} = ${sparkHelper("split_found")}(${context.frame}, ${params.column}, ${rest})`;
    },
    python: (params, { frame }) => {
      const rest = joined([cutterPython(params), ...params.keep ? [code("keep=True")] : []], ", ");
      return params.into === "rows" ? py`${frame} = ${pyHelper("split_to_rows")}(${frame}, ${params.column}, ${rest})` : py`${frame} = ${pyHelper("split_to_columns")}(${frame}, ${params.column}, ${params.into.columns === "found" ? null : params.into.columns}, ${rest})`;
    }
  }
});

// core/src/steps/start-from/index.ts
import { z as z37 } from "zod";
var startFrom = defineStep({
  kind: "start-from",
  verb: "Continue from here as a new table",
  words: ["branch", "copy of a table", "reference", "continue", "fork", "duplicate table"],
  start: true,
  params: z37.strictObject({ table: z37.string().min(1) }),
  sentence: ({ table }, names3) => ["Start from the rows of ", tableSlot(table, "table", ["table"], names3), "."],
  uses: ({ table }) => [table],
  output: ({ table }, _input, context) => context.tableColumns(table),
  trace: {
    rows: ({ table }, _step, rows2) => [{ table, rows: rows2 }],
    cells: ({ table }, _step, column, rows2) => [{ table, column, rows: rows2 }],
    fromTable: (_params, _step, _table, rows2) => rows2
  },
  run: ({ table }, _before, context) => ({ table: context.table(table), lineage: { kind: "source" } }),
  scripts: {
    sql: ({ table }, { table: other, column }) => sql`select "¶", ${other(table).columns.map((field) => column(field.name))} from ${other(table).rows}`,
    spark: "table",
    python: ({ table }, { frame, table: other }) => py`${frame} = ${other(table).frame}.copy()`
  },
  absorbs: () => true
});

// core/src/steps/summarise/index.ts
import { z as z38 } from "zod";
var layout5 = ({ by, measures }, input) => {
  const keys = keysOf(by, input);
  return { keys, made: measureFields(measures, keys, input) };
};
var namesOfAgg = /* @__PURE__ */ new Set(["func", "engine", "engine_kwargs"]);
var pandasFigures = (measures, input, key) => measures.flatMap(({ how, column, as, order: order2 }) => {
  const type = input.find((field) => field.name === column)?.type;
  const way = pandasAggregate(how, type);
  return order2 || namesOfAgg.has(as) || !way ? [] : [py`(${how === "count" ? key.name : column ?? null}, ${way})`];
});
var wholeColumns2 = (frame, made3) => {
  const typed = made3.flatMap(({ name: name2, type }) => pandasTypes[type] ? [py`${name2}: ${pandasTypes[type]}`] : []);
  const rows2 = py`${frame} = ${frame}.reset_index()${typed.length > 0 ? py`.astype({${joined(typed, ", ")}})` : code("")}`;
  const objects = made3.filter(({ type }) => !pandasTypes[type]).map(({ name: name2 }) => name2);
  return lines(rows2, objects.length > 0 ? py`${frame} = ${pyHelper("as_objects")}(${frame}, ${objects})` : void 0);
};
var summarise = defineStep({
  reshapes: true,
  dropsUnnamed: true,
  groupsByNone: true,
  kind: "summarise",
  verb: "Summarise",
  words: [
    "summarise",
    "summarize",
    "group",
    "aggregate",
    "total",
    "sum",
    "count",
    "average",
    "mean",
    "group by",
    "subtotal",
    "collect",
    "list of"
  ],
  params: z38.strictObject({ by: bySchema, measures: z38.array(measureSchema) }),
  drafts: {
    table: ({ schema }) => {
      const all = schema.map(({ name: name2 }) => name2);
      const numbers4 = measuresOf(all, schema);
      const by = all.filter((name2) => !numbers4.includes(name2)).slice(0, 1);
      return [{ rank: 30, params: { by, measures: [{ how: "count", as: "Rows" }] } }];
    },
    columns: ({ columns, schema }) => {
      const numbers4 = measuresOf(columns, schema);
      const keys = columns.filter((name2) => !numbers4.includes(name2));
      if (keys.length > 0)
        return [
          {
            rank: 280,
            verb: `Summarise by ${columns.length === 1 ? "this column" : "these columns"}`,
            params: { by: keys, measures: countAndTotals(numbers4, keys) }
          }
        ];
      const totals = numbers4.map((column) => ({ how: "sum", column, as: `Total ${column}` }));
      return [{ rank: 280, verb: "Total", params: { by: [], measures: totals } }];
    }
  },
  sentence: ({ by, measures }) => {
    const reported = slot(listed(measures.map(measureWords)) || "nothing else", "measures", ["measures"]);
    return byWords(by) === "" ? ["Summarise ", slot("all rows", "columns", ["by"]), ": ", reported, "."] : ["Summarise by ", slot(byWords(by), "columns", ["by"]), ": ", reported, "."];
  },
  output: (params, input, context) => {
    checkBy(params.by, input, context, "by");
    params.measures.forEach((measure, i) => checkMeasure(measure, input, context, "measures", i));
    const { keys, made: made3 } = layout5(params, input);
    if (keys.length + made3.length === 0) context.report({ code: "no-columns-left" }, "measures");
    return [...keys, ...made3];
  },
  run: (params, table) => {
    const { keys, made: made3 } = layout5(params, table.schema);
    const found2 = groupRows(
      table,
      keys.map(({ name: name2 }) => name2)
    );
    const groups = keys.length === 0 ? { ...found2, count: 1 } : found2;
    const { count: count3 } = groups;
    const keyTable = table.select(keys.map((field) => table.positionOf(field.name))).rows(groups.first);
    const measures = params.measures.map((measure, i) => runMeasure(measure, table, groups, made3[i].type));
    const unreadable = measures.flatMap(
      ({ failures }, i) => failures.length > 0 ? [{ column: made3[i].name, rows: failures }] : []
    );
    return {
      table: Table.of(
        [...keyTable.names, ...made3.map((field) => field.name)],
        [...keys.map((_, i) => keyTable.column(i)), ...measures.map(({ column }) => column)],
        count3
      ),
      lineage: { kind: "groups", groups },
      unreadable,
      notes: { groups: count3 }
    };
  },
  trace: {
    cells: (params, { before, lineage }, column, rows2) => {
      const { keys, made: made3 } = layout5(params, before.schema);
      const measure = params.measures[made3.findIndex((field) => field.name === column)];
      if (lineage.kind !== "groups" || keys.some((field) => field.name === column) || !measure) return void 0;
      const order2 = measure.order ? orderOf(measure.order, before) : void 0;
      return measureSources(before, measure, rows2, lineage.groups.ids, order2);
    }
  },
  columnLineage: (params, input) => Object.fromEntries(keysOf(params.by, input).map((field) => [field.name, field.name])),
  scripts: {
    sql: (params, { from, input, column }) => {
      const { keys, made: made3 } = layout5(params, input);
      const names3 = keys.map((field) => column(field.name));
      const measures = params.measures.map(
        (measure, i) => sql`${measureSql(measure, input, column)} as ${column(made3[i].name)}`
      );
      return sql`select coalesce(min("¶"), 1) as "¶", ${joined([...names3, ...measures], ", ")}\nfrom ${from}${names3.length > 0 ? sql`\ngroup by ${names3}` : code("")}`;
    },
    sqlRows: ({ by }, { from, input, column }) => [{ rows: groupRowsSql(keysOf(by, input), from, column) }],
    spark: "table",
    python: (params, { frame, input, plain: plain4 }) => {
      const { keys, made: made3 } = layout5(params, input);
      const figures2 = plain4 && Array.isArray(params.by) && keys.length > 0 && keepsKeys(keys) ? pandasFigures(params.measures, input, keys[0]) : [];
      if (figures2.length === made3.length && made3.length > 0)
        return lines(
          py`${frame} = ${frame}.groupby(${keys.map(({ name: name2 }) => name2)}, sort=False, dropna=False).agg(`,
          ...figures2.map((figure2, i) => py`    ${namedArgument(made3[i].name, figure2)},`),
          code(")"),
          wholeColumns2(frame, made3)
        );
      const measures = params.measures.map((measure, i) => measurePython(measure, measure.as, made3[i].type));
      return py`${frame} = ${pyHelper("summarise")}(${frame}, by=${byWords(params.by) === "" ? py`[]${code("")}` : selectorPython(params.by, frame)}, measures=[${joined(measures, ", ")}])`;
    }
  },
  absorbs: ({ by }, column, input) => keysOf(by, input).some((field) => field.name === column)
});

// core/src/steps/transpose/index.ts
import { z as z39 } from "zod";
var restOf = ({ names: names3 }, schema) => schema.filter((field) => field.name !== names3);
var typeOf3 = (params, schema) => typeTogether(restOf(params, schema).map(({ type }) => type));
var newNames = (table, { names: names3 }) => {
  const at = names3 === void 0 ? -1 : table.positionOf(names3);
  const type = table.schema[at]?.type ?? "text";
  const taken = ["Name"];
  for (let row = 0; row < table.rowCount; row++) {
    const cell = at < 0 ? null : table.cell(at, row);
    taken.push(freeName(cell === null ? `Column ${row + 1}` : textOfCell(type, cell), taken));
  }
  return taken.slice(1);
};
var transpose = defineStep({
  reshapes: true,
  shownAfter: true,
  figures: ({ notes }) => [
    plainFigure(`${counted(notes.columnsBecameRows ?? 0, "column")} became rows`),
    plainFigure(`${counted(notes.rowsBecameColumns ?? 0, "row")} became columns`)
  ],
  kind: "transpose",
  verb: "Swap rows and columns",
  words: ["transpose", "swap", "flip", "rotate", "turn round", "rows and columns"],
  params: z39.strictObject({ names: name.optional() }),
  drafts: {
    table: ({ schema }) => {
      const key = schema.find(({ type }) => type !== "integer" && type !== "decimal");
      return [{ rank: 120, params: key ? { names: key.name } : {} }];
    }
  },
  sentence: ({ names: names3 }) => [
    "Swap rows and columns",
    ...names3 === void 0 ? [", naming the new columns by their number."] : [", naming the new columns after ", slot(names3, "oneColumn", ["names"]), "."]
  ],
  output: ({ names: names3 }, input, context) => {
    if (names3 !== void 0) checkColumn(names3, input, context, "names");
    return [{ name: "Name", type: "text" }];
  },
  dynamicColumns: (params, input) => () => [typeOf3(params, input)],
  run: (params, table) => {
    if (table.rowCount > maxColumns)
      throw new DataRefused(
        `${figure(table.rowCount)} rows would become as many columns; ${figure(maxColumns)} is the most. Keep fewer rows first.`
      );
    const type = typeOf3(params, table.schema);
    const rest = restOf(params, table.schema);
    const columns = rest.map((field) => convert(table.named(field.name), { type }).column);
    const made3 = Array.from({ length: table.rowCount }, (_, row) => {
      const writer = columnWriter(type, rest.length);
      columns.forEach((column, i) => writer.set(i, cellAt(column, row)));
      return writer.done();
    });
    return {
      table: Table.of(
        ["Name", ...newNames(table, params)],
        [
          columnOf(
            "text",
            rest.map((field) => field.name)
          ),
          ...made3
        ],
        rest.length
      ),
      lineage: { kind: "source" },
      notes: { columnsBecameRows: rest.length, rowsBecameColumns: table.rowCount }
    };
  },
  columnLineage: () => ({}),
  trace: {
    rows: (_params, { before }, rows2) => rows2.rows.length > 0 ? [{ rows: allRows(before.rowCount) }] : [],
    // the names of columns come from no row; a cell is the one that stood on the other side of the diagonal
    cells: (params, { before, after }, column, { rows: rows2 }) => {
      const at = after.positionOf(column) - 1;
      const rest = restOf(params, before.schema);
      if (at < 0) return [];
      return [...rows2].flatMap((row) => {
        const name2 = rest[row]?.name;
        return name2 === void 0 ? [] : [{ column: name2, rows: oneRow(at) }];
      });
    }
  },
  scripts: {
    sql: (params, { from, input, output, column }) => {
      const type = typeOf3(params, input);
      const rows2 = restOf(params, input).map((field, i) => {
        const part2 = column(field.name);
        const chooseCell = () => {
          if (field.type === type) return part2;
          if (type === "text") return sql`${sqlHelper("shown")}(${part2})`;
          return sql`${part2}::${code(type === "decimal" ? "float8" : "timestamp")}`;
        };
        const cell = chooseCell();
        return sql`select ${i + 1} as "¶", ${field.name}::text as ${column("Name")}${joined(
          output.slice(1).map((made3, n) => sql`, a[${n + 1}] as ${column(made3.name)}`),
          ""
        )} from (select array_agg(${cell} order by "¶") a from ${from}) s`;
      });
      if (rows2.length === 0)
        return sql`select 0 as "¶", ${joined(
          output.map((made3, i) => sql`null::${i === 0 ? code("text") : sqlTypeName(type)} as ${column(made3.name)}`),
          ", "
        )} where false`;
      return joined(rows2, "\nunion all\n");
    },
    sqlRows: (params, { from, input }) => [
      { rows: sql`select n as "¶", "¶" as was from ${from}, generate_series(1, ${restOf(params, input).length}) n` }
    ],
    spark: "table",
    python: ({ names: names3 }, { frame }) => py`${frame} = ${pyHelper("transpose")}(${frame}${names3 === void 0 ? code("") : py`, ${names3}`})`
  },
  absorbs: () => true
});

// core/src/steps/unify/index.ts
import { z as z40 } from "zod";

// core/src/steps/shared/similar-values.ts
import { distance as distance2 } from "fastest-levenshtein";
var similarityMeasures = ["sound", "characters", "spelling"];
var alike2 = {
  \u0430: "a",
  \u0435: "e",
  \u043E: "o",
  \u0440: "p",
  \u0441: "c",
  \u0445: "x",
  \u0443: "y",
  \u0456: "i",
  \u043A: "k",
  \u0432: "b",
  \u043D: "h",
  \u043C: "m",
  \u0442: "t",
  \u03BF: "o",
  \u03B1: "a",
  \u03BD: "v",
  \u03C1: "p",
  \u03B9: "i",
  \u03BA: "k",
  \u03C4: "t",
  \u0131: "i",
  \u00DF: "ss",
  \u00E6: "ae",
  \u00F8: "o",
  \u0142: "l"
};
var plainLetters = (text3) => Array.from(lower(trim(text3)).normalize("NFKD").replace(/\p{M}/gu, ""), (sign2) => ownValue(alike2, sign2) ?? sign2).join(
  ""
);
var digits = (text3) => (text3.match(/\d+/g) ?? []).join(" ");
var characterKey = (text3) => {
  const form = plainLetters(text3);
  return `${Array.from(form.replace(/[^\p{L}]+/gu, "")).sort().join("")}${digits(form)}`;
};
var soundOf = {
  b: "1",
  f: "1",
  p: "1",
  v: "1",
  c: "2",
  g: "2",
  j: "2",
  k: "2",
  q: "2",
  s: "2",
  x: "2",
  z: "2",
  d: "3",
  t: "3",
  l: "4",
  m: "5",
  n: "5",
  r: "6"
};
var spellings = [
  [/ph/g, "f"],
  [/ck|q|c(?=[^eiyh]|$)/g, "k"],
  [/ght?/g, "t"],
  [/^kn|^gn/g, "n"],
  [/^wr/g, "r"],
  [/c(?=[eiy])/g, "s"],
  [/[hw]/g, ""]
];
var soundKey = (text3) => plainLetters(text3).split(/[^\p{L}\p{N}]+/u).filter(Boolean).map((word2) => {
  const spoken = spellings.reduce((now, [from, to]) => now.replace(from, to), word2);
  const first2 = /^[aeiouy]/.test(spoken) ? "a" : ownValue(soundOf, spoken[0] ?? "") ?? spoken[0] ?? "";
  return first2 + Array.from(spoken.slice(1), (sign2) => /[aeiouy]/.test(sign2) ? "." : ownValue(soundOf, sign2) ?? sign2).join("").replace(/(\d)\1+/g, "$1").replaceAll(".", "");
}).join("-");
var keyOf2 = {
  sound: soundKey,
  characters: characterKey
};
var reach = (a, b) => {
  const least2 = Math.min(a.length, b.length);
  return least2 < 4 ? 0 : Math.min(3, Math.max(1, Math.floor(least2 / 4)));
};
var spellingForm = (text3) => plainLetters(text3).replace(/\s+/g, " ");
var matchToGroups = (fresh, groups, measure) => {
  if (measure === "spelling") {
    const forms = groups.flatMap(
      ({ into, from }) => [into, ...from].map((text3) => ({ into, form: spellingForm(text3), digits: digits(text3) }))
    );
    return fresh.flatMap((value) => {
      const form = spellingForm(value);
      const home = forms.find(
        (one2) => one2.digits === digits(value) && Math.abs(one2.form.length - form.length) <= 3 && distance2(one2.form, form) <= reach(one2.form, form)
      );
      return home ? [{ value, into: home.into }] : [];
    });
  }
  const key = keyOf2[measure];
  const known3 = new Map(groups.flatMap(({ into, from }) => [into, ...from].map((text3) => [key(text3), into])));
  return fresh.flatMap((value) => {
    const into = known3.get(key(value));
    return into === void 0 || key(value) === "" ? [] : [{ value, into }];
  });
};

// core/src/steps/unify/index.ts
var groupWords = ({ into, from }) => {
  const others = from.filter((value) => value !== into);
  const spellings2 = () => {
    if (others.length > 2) return counted(others.length, "spelling");
    if (others.length === 0) return "itself";
    return listed(others.map(quoted));
  };
  return `${quoted(into)} for ${spellings2()}`;
};
var mapOf = (groups) => {
  const map2 = /* @__PURE__ */ new Map();
  for (const { into, from } of groups) for (const value of from) if (!map2.has(value)) map2.set(value, into);
  return map2;
};
var unify2 = defineStep({
  workbench: "values",
  kind: "unify",
  verb: "Give one spelling\u2026",
  words: [
    "unify",
    "spelling",
    "cluster",
    "group values",
    "standardise",
    "fuzzy",
    "variants",
    "typos",
    "same thing",
    "harmonise",
    "merge values"
  ],
  params: z40.strictObject({
    column: name,
    groups: z40.array(z40.strictObject({ into: z40.string().min(1), from: z40.array(z40.string().min(1)).min(1) })),
    judged: z40.enum([...similarityMeasures, "hand"]).optional()
  }),
  drafts: {
    columns: ({ columns: [column = "", ...more], schema }) => more.length === 0 && typeIn(schema, column) === "text" ? [{ rank: 120, params: { column, groups: [], judged: "characters" } }] : [],
    values: ({ column, values, schema }) => typeIn(schema, column) === "text" ? [
      {
        rank: 10,
        verb: "Call all of these\u2026",
        params: { column, groups: [{ into: values[0] ?? "", from: values }], judged: "hand" }
      }
    ] : []
  },
  sentence: ({ column, groups }) => {
    const chooseShown = () => {
      if (groups.length > 2) return `${groups.slice(0, 2).map(groupWords).join(", ")} and ${groups.length - 2} more`;
      if (groups.length === 0) return "nothing yet";
      return listed(groups.map(groupWords));
    };
    const shown = chooseShown();
    return ["In ", slot(column, "oneColumn", ["column"]), " write ", slot(shown, "groups", []), "."];
  },
  output: ({ column }, input, context) => {
    const field = checkColumn(column, input, context, "column");
    if (field && field.type !== "text")
      context.report({ code: "wrong-type", column: field.name, type: field.type, needs: "text" }, "column");
    return input;
  },
  decides: ({ column, groups }) => [
    {
      column,
      unnamed: "own-spelling",
      named: groups.flatMap(({ into, from }) => [into, ...from]),
      groups,
      naming: (values, into) => ({
        groups: groups.map((group) => group.into === into ? { ...group, from: [...group.from, ...values] } : group)
      })
    }
  ],
  run: ({ column, groups, judged }, table) => {
    const at = table.positionOf(column);
    const before = table.column(at);
    if (before.type !== "text") throw new Error(`unify of ${before.type}`);
    const map2 = mapOf(groups);
    const after = mapText(before, (text3) => map2.get(text3) ?? text3);
    let cellsChanged = 0;
    for (let i = 0, n = lengthOf(before); i < n; i++) if (cellAt(before, i) !== cellAt(after, i)) cellsChanged++;
    const newLookalikes = judged === void 0 || judged === "hand" ? 0 : newcomers(asDictionary(before).dictionary, groups, judged).length;
    return {
      table: table.with(at, column, after, true),
      lineage: { kind: "same" },
      cellsChanged,
      notes: newLookalikes > 0 ? { groups: groups.length, newLookalikes } : { groups: groups.length }
    };
  },
  scripts: {
    sql: ({ column, groups }, context) => {
      const cell = context.column(column);
      const whens = [...mapOf(groups)].filter(([value, into]) => value !== into).map(([value, into]) => sql`when ${value} then ${into}`);
      return selectColumns(
        context,
        whens.length > 0 ? { [column]: sql`case ${cell} ${joined(whens, " ")} else ${cell} end` } : {}
      );
    },
    python: ({ column, groups }, { frame }) => py`${frame}[${column}] = ${pyHelper("replace_values")}(${frame}[${column}], [${joined(
      [...mapOf(groups)].map(([value, into]) => py`(${value}, ${into})`),
      ", "
    )}])`
  },
  absorbs: ({ column }, other) => column === other
});
var newcomers = (words3, groups, judge) => {
  const known3 = new Set(groups.flatMap(({ into, from }) => [into, ...from]));
  const fresh = words3.filter((word2) => word2 !== "" && !known3.has(word2));
  return fresh.length === 0 ? [] : matchToGroups(fresh, groups, judge);
};

// core/src/steps/union/index.ts
import { z as z41 } from "zod";

// core/src/steps/union/align.ts
var partOf = (params, table, schema) => {
  const before = schema.map((field) => field.name);
  const wanted = before.map(
    (column) => params.pairs?.find(({ from }) => from.some((one2) => one2.table === table && one2.column === column))?.into ?? params.apart?.find((one2) => one2.table === table && one2.column === column)?.as ?? column
  );
  return { table, schema, names: settle2(wanted, before) };
};
var alignUnion = (params, own2, input, tables) => {
  const parts2 = [partOf(params, own2, input), ...params.with.map((table) => partOf(params, table, tables(table)))];
  const names3 = [...new Set(parts2.flatMap((part2) => part2.names))].filter(
    (one2) => params.columns !== "shared" || parts2.every((part2) => part2.names.includes(one2))
  );
  const fields = names3.map((one2) => ({
    name: one2,
    type: typeTogether(
      parts2.flatMap((part2) => part2.schema.flatMap((field, i) => part2.names[i] === one2 ? [field.type] : []))
    )
  }));
  return { parts: parts2, fields, origin: params.origin === void 0 ? void 0 : freeName(params.origin, names3) };
};

// core/src/steps/union/plain-python.ts
var typesAgree = ({ parts: parts2, fields }) => fields.every(
  ({ name: name2, type }) => parts2.every((part2) => {
    const own2 = part2.schema[part2.names.indexOf(name2)];
    return !own2 || own2.type === type || own2.type === "integer" && type === "decimal";
  })
);
var renamed2 = (frame, { schema, names: names3 }) => {
  const pairs = schema.flatMap((field, i) => names3[i] === field.name ? [] : [py`${field.name}: ${names3[i] ?? ""}`]);
  return pairs.length > 0 ? py`${pyHelper("rename_columns")}(${frame}, {${joined(pairs, ", ")}})` : frame;
};
var plainUnion = (params, context) => {
  const { frame, table, own: own2, input, names: names3, plain: plain4 } = context;
  if (!plain4) return void 0;
  const layout7 = alignUnion(params, own2, input, (id) => table(id).columns);
  if (!typesAgree(layout7)) return void 0;
  const tables = layout7.parts.map((part2, i) => renamed2(i === 0 ? frame : table(part2.table).frame, part2));
  const shared2 = params.columns === "shared" ? code(", shared=True") : code("");
  const titles = layout7.parts.map((part2, i) => names3(i === 0 ? "" : part2.table));
  const origin = params.origin === void 0 ? code("") : py`, origin=${params.origin}, names=${titles}`;
  return py`${frame} = ${pyHelper("stack")}([${joined(tables, ", ")}]${shared2}${origin})`;
};

// core/src/steps/union/stacked.ts
var startsOf = (lengths) => {
  const starts = int32s(lengths.length + 1);
  lengths.forEach((length, i) => starts[i + 1] = starts[i] + length);
  return starts;
};
var partAt = (starts, row) => {
  let part2 = 0;
  while (row >= starts[part2 + 1]) part2++;
  return part2;
};
var stacked2 = (type, parts2) => {
  const columnOfPart = ({ table, rowCount }) => table ? convert(table.column(0), { type }).column : emptyColumn(type, rowCount);
  const make = () => concat(type, parts2.map(columnOfPart));
  if (parts2.some(({ table }) => table && table.schema[0]?.type !== type)) return make();
  const starts = startsOf(parts2.map(({ rowCount }) => rowCount));
  return new LazyColumn({
    type,
    length: starts[parts2.length],
    holds: () => parts2.flatMap(({ table }) => table?.buffers ?? []),
    again: true,
    cell: (row) => {
      const part2 = partAt(starts, row);
      return parts2[part2]?.table?.cell(0, row - starts[part2]) ?? null;
    },
    make
  });
};
var labelsOfParts = (labels, lengths) => {
  const starts = startsOf(lengths);
  return new LazyColumn({
    type: "text",
    length: starts[lengths.length],
    holds: () => [],
    again: true,
    cell: (row) => labels[partAt(starts, row)] || null,
    make: () => {
      const parts2 = int32s(starts[lengths.length]);
      labels.forEach((_, i) => parts2.fill(i, starts[i], starts[i + 1]));
      return gather(columnOf("text", labels), parts2);
    }
  });
};

// core/src/steps/union/trace.ts
var partsOf4 = ({ with: others }, { before, context }) => {
  const parts2 = [{ table: void 0, from: 0, count: before.rowCount }];
  for (const table of others) {
    const last = parts2.at(-1);
    parts2.push({ table, from: last.from + last.count, count: context.table(table).rowCount });
  }
  return parts2;
};
var rowsOf4 = ({ from, count: count3 }, rows2) => {
  const inside = rowsWhere2(rows2, (row) => row >= from && row < from + count3);
  return { ...inside, rows: inside.rows.map((row) => row - from) };
};
var sourcesOf = (params, step, rows2, columnOf3) => partsOf4(params, step).flatMap((part2, i) => {
  const own2 = rowsOf4(part2, rows2);
  const column = columnOf3(i);
  return own2.rows.length === 0 ? [] : [
    {
      ...part2.table === void 0 ? {} : { table: part2.table },
      ...column === void 0 ? {} : { column },
      rows: own2
    }
  ];
});
var unionTrace = {
  rows: (params, step, rows2) => sourcesOf(params, step, rows2, () => void 0),
  cells: (params, step, column, rows2) => {
    const { context, before } = step;
    const { parts: parts2 } = alignUnion(params, context.own, before.schema, (id) => context.table(id).schema);
    return sourcesOf(params, step, rows2, (i) => {
      const part2 = parts2[i];
      return part2?.schema[part2.names.indexOf(column)]?.name;
    });
  },
  fromTable: (params, step, table, rows2) => {
    const counter = new RowCounter(step.after.rowCount);
    for (const part2 of partsOf4(params, step))
      if (part2.table === table)
        for (let i = 0; i < rows2.rows.length; i++) counter.add(rows2.rows[i] + part2.from, timesAt(rows2, i));
    return counter.done();
  }
};

// core/src/steps/union/index.ts
var notesOf = ({ parts: parts2, fields }, names3, rows2) => {
  const notes = { tables: parts2.length };
  parts2.forEach((part2, i) => {
    for (const field of fields)
      if (!part2.names.includes(field.name))
        notes[`lacks ${names3(i === 0 ? "" : part2.table)}: ${field.name}`] = rows2[i] ?? 0;
  });
  const widened2 = fields.filter(
    (field) => parts2.some((part2) => part2.schema.some((one2, i) => part2.names[i] === field.name && one2.type !== field.type))
  );
  return widened2.length > 0 ? { ...notes, columnsOfSeveralTypes: widened2.length } : notes;
};
var widenSql = (part2, from, to) => {
  if (from === to) return part2;
  if (to === "text") return sql`${sqlHelper("shown")}(${part2})`;
  return sql`${part2}::${sqlTypeName(to)}`;
};
var partOf2 = (table, at) => ({
  rowCount: table.rowCount,
  table: at < 0 ? void 0 : table.select([at])
});
var union = defineStep({
  workbench: "tables",
  kind: "union",
  verb: "Lay other tables underneath\u2026",
  words: ["union", "append", "stack", "concatenate", "add rows", "combine tables", "under one another", "merge files"],
  params: z41.strictObject({
    with: z41.array(z41.string().min(1)).min(1),
    columns: z41.enum(["all", "shared"]).optional(),
    pairs: z41.array(
      z41.strictObject({
        into: name,
        from: z41.array(z41.strictObject({ table: z41.string().min(1), column: name })).min(1)
      })
    ).optional(),
    apart: z41.array(z41.strictObject({ column: name, table: z41.string().min(1), as: name })).optional(),
    origin: name.optional()
  }),
  drafts: {
    table: ({ tables: [other] }) => [
      { rank: 155, ...other ? {} : { needs: "files" }, params: { with: [other?.id ?? ""], origin: "Table" } }
    ]
  },
  sentence: ({ with: tables, columns = "all", pairs = [], apart = [], origin }, names3) => [
    "Lay ",
    ...tables.flatMap((table, i) => [
      ...i === 0 ? [] : [i === tables.length - 1 ? " and " : ", "],
      tableSlot(table, "union", ["with", i], names3)
    ]),
    " underneath, by name, with ",
    slot(
      columns === "all" ? "all columns" : "only the columns that all have",
      "choice",
      ["columns"],
      [
        ["all", "all columns"],
        ["shared", "only the columns that all have"]
      ]
    ),
    ...pairs.length > 0 ? ["; ", slot(`${counted(pairs.length, "column")} laid together`, "union", ["pairs"])] : [],
    ...apart.length > 0 ? ["; ", slot(`${counted(apart.length, "column")} kept apart`, "union", ["apart"])] : [],
    ...origin === void 0 ? ["."] : [", and the table\u2019s name as ", slot(origin, "name", ["origin"]), "."]
  ],
  uses: ({ with: tables }) => [...new Set(tables)],
  output: (params, input, context) => {
    const { own: own2 } = context;
    const columnsOf = (table) => table === own2 ? input : context.tableColumns(table);
    const check3 = (table, column, ...path) => {
      if (table !== own2 && !params.with.includes(table))
        context.report({ code: "not-in-union", table: context.names(table) }, ...path, "table");
      else checkColumn(column, columnsOf(table), table === own2 ? context : inTable(context, table), ...path, "column");
    };
    params.pairs?.forEach(
      ({ from }, i) => from.forEach((one2, k) => check3(one2.table, one2.column, "pairs", i, "from", k))
    );
    params.apart?.forEach((one2, i) => check3(one2.table, one2.column, "apart", i));
    const { fields, origin } = alignUnion(params, own2, input, context.tableColumns);
    if (fields.length === 0) context.report({ code: "no-columns-left" }, "columns");
    return origin === void 0 ? fields : [...fields, { name: origin, type: "text" }];
  },
  run: (params, table, context) => {
    const aligned = alignUnion(params, context.own, table.schema, (id) => context.table(id).schema);
    const tables = [table, ...params.with.map((id) => context.table(id))];
    const total = tables.reduce((sum, one2) => sum + one2.rowCount, 0);
    checkSize("Laying these tables under one another", total, aligned.fields.length);
    const columns = aligned.fields.map(
      ({ name: one2, type }) => stacked2(
        type,
        aligned.parts.map((part2, i) => partOf2(tables[i], part2.names.indexOf(one2)))
      )
    );
    const index = rowsAndOthers(table.rowCount, total - table.rowCount);
    const labels = aligned.parts.map((part2, i) => context.names(i === 0 ? "" : part2.table));
    const lengths = tables.map(({ rowCount }) => rowCount);
    const origin = aligned.origin === void 0 ? [] : [labelsOfParts(labels, lengths)];
    return {
      table: Table.of(
        [...aligned.fields.map((field) => field.name), ...aligned.origin === void 0 ? [] : [aligned.origin]],
        [...columns, ...origin],
        total
      ),
      lineage: { kind: "index", index },
      notes: notesOf(aligned, context.names, lengths)
    };
  },
  trace: unionTrace,
  columnLineage: (params, input, output) => Object.fromEntries(
    input.flatMap((field) => {
      const into = params.pairs?.find(
        ({ from }) => from.some((one2) => one2.column === field.name && !params.with.includes(one2.table))
      )?.into ?? field.name;
      return output.some((one2) => one2.name === into) ? [[into, field.name]] : [];
    })
  ),
  scripts: {
    sql: (params, { from, input, column, table, names: names3, own: own2 }) => {
      const { parts: parts2, fields, origin } = alignUnion(params, own2, input, (id) => table(id).columns);
      const rows2 = parts2.map((part2, i) => {
        const cells = fields.map((field) => {
          const at = part2.names.indexOf(field.name);
          const own3 = part2.schema[at];
          return sql`${own3 ? widenSql(column(own3.name), own3.type, field.type) : sql`null::${sqlTypeName(field.type)}`} as ${column(field.name)}`;
        });
        return sql`select ${i} as "¶p", "¶" as "¶r", ${[...cells, ...origin === void 0 ? [] : [sql`${names3(i === 0 ? "" : part2.table)}::text as ${column(origin)}`]]} from ${i === 0 ? from : table(part2.table).rows}`;
      });
      const all = [...fields.map((field) => column(field.name)), ...origin === void 0 ? [] : [column(origin)]];
      return sql`select row_number() over (order by "¶p", "¶r") as "¶", ${all}\nfrom (${joined(rows2, "\nunion all\n")}) parts`;
    },
    sqlRows: (params, { from, input, table, own: own2 }) => {
      const { parts: parts2 } = alignUnion(params, own2, input, (id) => table(id).columns);
      const all = joined(
        parts2.map((part2, i) => sql`select ${i} as "¶p", "¶" as "¶r" from ${i === 0 ? from : table(part2.table).rows}`),
        " union all "
      );
      const numbered = sql`select row_number() over (order by "¶p", "¶r") as "¶", * from (${all}) parts`;
      return parts2.map((part2, i) => ({
        ...i === 0 ? {} : { table: part2.table },
        rows: sql`select "¶", "¶r" as was from (${numbered}) numbered where "¶p" = ${i}`
      }));
    },
    spark: "table",
    python: (params, context) => {
      const plain4 = plainUnion(params, context);
      if (plain4) return plain4;
      const { frame, table, names: names3, own: own2, input } = context;
      const part2 = (id, rows2, columns) => {
        const renames = new Map([
          ...(params.pairs ?? []).flatMap(
            ({ into, from }) => from.filter((one2) => one2.table === id).map((one2) => [one2.column, into])
          ),
          ...(params.apart ?? []).filter((one2) => one2.table === id).map((one2) => [one2.column, one2.as])
        ]);
        const pairs = [...renames].map(([column, into]) => py`${column}: ${into}`);
        const told = untoldFields(columns).map(({ name: name2, type }) => ({ name: renames.get(name2) ?? name2, type }));
        return py`(${rows2}, ${names3(id === own2 ? "" : id)}, {${joined(pairs, ", ")}}${told.length > 0 ? py`, ${kindsPython(told)}` : code("")})`;
      };
      const parts2 = [part2(own2, frame, input), ...params.with.map((id) => part2(id, table(id).frame, table(id).columns))];
      return py`${frame} = ${pyHelper("union_tables")}([${joined(parts2, ", ")}]${params.columns === "shared" ? code(", shared=True") : code("")}${params.origin === void 0 ? code("") : py`, origin=${params.origin}`})`;
    }
  },
  absorbs: () => true
});

// core/src/steps/unpivot/index.ts
import { z as z42 } from "zod";

// core/src/steps/unpivot/crosstab.ts
var months2 = new Set(monthNames.flatMap((month) => [month, month.slice(0, 3)]).concat("sept"));
var sortOf = (word2) => {
  const text3 = lower(word2).replace(/\.$/, "");
  if (/^(?:19|20)\d\d$/.test(text3) || /^fy ?\d\d(?:\d\d)?$/.test(text3)) return "Year";
  if (/^(?:q[1-4]|[1-4]q)(?: ?(?:19|20)\d\d)?$/.test(text3) || /^(?:19|20)\d\d[ -]?q[1-4]$/.test(text3)) return "Quarter";
  if (months2.has(text3) || /^(?:19|20)\d\d-(?:0[1-9]|1[0-2])$/.test(text3) || [...months2].some(
    (month) => text3.startsWith(`${month} `) && /^(?:\d\d|(?:19|20)\d\d)$/.test(text3.slice(month.length + 1))
  ))
    return "Month";
  if (/^(?:w|week ?|kw ?)\d{1,2}$/.test(text3)) return "Week";
  return /^(?:19|20)\d\d-\d\d-\d\d$/.test(text3) ? "Day" : void 0;
};
var parts = /^(.*?)([\s_\-./:]+)(.*)$/;
var read = (name2) => {
  const whole5 = sortOf(name2);
  if (whole5) return { measure: "", label: name2, sort: whole5 };
  for (let at = 0; at < name2.length; at++) {
    if (!/[\s_\-./:]/.test(name2[at])) continue;
    const [head, tail] = [name2.slice(0, at), name2.slice(at + 1)];
    const behind = sortOf(tail);
    if (behind && head !== "") return { measure: head.trim(), label: tail, sort: behind };
    const before = sortOf(head);
    if (before && tail !== "") return { measure: tail.trim(), label: head, sort: before };
  }
  return void 0;
};
var ruleFor = (columns, schema) => {
  const all = schema.map((field) => field.name);
  const means = (pattern2) => all.filter((name2) => wildcard(pattern2).test(name2)).join("\0") === all.filter((name2) => columns.includes(name2)).join("\0");
  const [first2 = ""] = columns;
  let prefix = first2;
  let suffix = first2;
  for (const name2 of columns) {
    while (!name2.startsWith(prefix)) prefix = prefix.slice(0, -1);
    while (!name2.endsWith(suffix)) suffix = suffix.slice(1);
  }
  prefix = prefix.replace(/[\p{L}\p{N}]+$/u, "");
  suffix = suffix.replace(/^[\p{L}\p{N}]+/u, "");
  if (columns.every((name2) => /^(?:19|20)\d\d$/.test(name2)) && means("20??")) return { like: "20??" };
  if (columns.length > 1 && prefix.length >= 3 && means(`${prefix}*`)) return { like: `${prefix}*` };
  if (columns.length > 1 && suffix.length >= 3 && means(`*${suffix}`)) return { like: `*${suffix}` };
  const others = all.filter((name2) => !columns.includes(name2));
  return columns.length > 1 && others.length <= Math.max(4, columns.length) ? { except: others } : [...columns];
};
var escaped3 = (text3) => text3.replace(/[.*+?^${}()|[\]\\/]/g, "\\$&");
var removing = (measures) => {
  const any = [...measures].sort((a, b) => b.length - a.length).map(escaped3).join("|");
  return { pattern: `^(?:${any})[\\s_./:-]+|[\\s_./:-]+(?:${any})$` };
};
var unpivotFor = (columns, schema) => {
  const reads2 = columns.map(read);
  const known3 = reads2.filter((one2) => one2 !== void 0);
  const [first2] = known3;
  if (first2 && known3.length === columns.length && new Set(known3.map(({ sort: sort2 }) => sort2)).size === 1) {
    const measures = [...new Set(known3.map(({ measure }) => measure))];
    const groups = measures.map((measure) => ({
      columns: ruleFor(
        columns.filter((_, i) => known3[i]?.measure === measure),
        schema
      ),
      value: measure === "" ? "Value" : measure
    }));
    const named2 = measures.filter((measure) => measure !== "");
    return {
      kind: "unpivot",
      name: first2.sort,
      groups,
      ...named2.length > 0 ? { labels: { remove: removing(named2) } } : {}
    };
  }
  const heads = columns.map((name2) => parts.exec(name2)?.[1]);
  const [head] = heads;
  if (columns.length > 1 && head !== void 0 && head !== "" && heads.every((one2) => one2 === head))
    return {
      kind: "unpivot",
      name: "Name",
      groups: [{ columns: ruleFor(columns, schema), value: head }],
      labels: { remove: removing([head]) }
    };
  const tails = columns.map((name2) => /^.*?[\s_\-./:]+([^\s_\-./:]+)$/.exec(name2)?.[1]);
  const [tail] = tails;
  if (columns.length > 1 && tail !== void 0 && tails.every((one2) => one2 === tail))
    return {
      kind: "unpivot",
      name: "Name",
      groups: [{ columns: ruleFor(columns, schema), value: tail }],
      labels: { remove: removing([tail]) }
    };
  return { kind: "unpivot", name: "Name", groups: [{ columns: ruleFor(columns, schema), value: "Value" }] };
};
var crosstabSteps = (columns, schema) => {
  const reads2 = columns.map(read);
  if (columns.length < 4 || reads2.some((one2) => one2 === void 0 || one2.measure === "")) return void 0;
  const known3 = reads2;
  const measures = new Set(known3.map(({ measure }) => measure));
  const [first2] = known3;
  if (!first2 || measures.size < 2) return void 0;
  const ahead = columns.every((name2, i) => name2.startsWith(known3[i]?.measure ?? ""));
  const sign2 = parts.exec(columns[0] ?? "")?.[2] ?? " ";
  const names3 = ahead ? ["Measure", first2.sort] : [first2.sort, "Measure"];
  return {
    unpivot: { name: "What", groups: [{ columns: ruleFor(columns, schema), value: "Value" }] },
    then: [
      {
        kind: "split",
        column: "What",
        by: { delimiter: sign2 },
        at: ahead ? "last" : "first",
        into: { columns: names3 }
      },
      { kind: "pivot", labels: "Measure", values: [{ column: "Value", how: "only" }] }
    ]
  };
};

// core/src/steps/unpivot/layout.ts
var labelOf = (labels) => {
  const { remove, renames = {} } = labels ?? {};
  const pattern2 = typeof remove === "object" ? compilePattern(remove.pattern, false) : void 0;
  return (column) => {
    const chooseCleaned = () => {
      if (pattern2) return replaceMatches(column, pattern2, "");
      if (typeof remove === "string" && remove !== "") return column.replaceAll(remove, () => "");
      return column;
    };
    const cleaned = chooseCleaned();
    return ownValue(renames, cleaned) ?? cleaned;
  };
};
var layout6 = (params, input) => {
  const label = labelOf(params.labels);
  const fields = params.groups.map(({ columns }) => [...new Set(selected(columns, input))]);
  const all = new Set(fields.flat());
  const kept2 = input.filter((field) => !all.has(field));
  const twice = [];
  const turns = [];
  if (fields.length === 1)
    for (const field of fields[0] ?? []) turns.push({ label: label(field.name), columns: [field.name] });
  else {
    const byLabel = /* @__PURE__ */ new Map();
    for (const field of input.filter((one2) => all.has(one2)))
      fields.forEach((group, g) => {
        if (!group.includes(field)) return;
        const key = label(field.name);
        const turn = byLabel.get(key) ?? { label: key, columns: fields.map(() => void 0) };
        if (!byLabel.has(key)) {
          byLabel.set(key, turn);
          turns.push(turn);
        }
        if (turn.columns[g] !== void 0) twice.push(key);
        turn.columns[g] = field.name;
      });
  }
  const taken = kept2.map((field) => field.name);
  const at = positionFor(params, taken);
  const labelName = freeName(params.name, taken);
  taken.push(labelName);
  const values = params.groups.map(({ value }, g) => {
    const free = freeName(value, taken);
    taken.push(free);
    return { name: free, type: typeTogether((fields[g] ?? []).map((field) => field.type)) };
  });
  return {
    turns,
    kept: kept2,
    gathered: all.size,
    label: labelName,
    values,
    at,
    schema: [...kept2.slice(0, at), { name: labelName, type: "text" }, ...values, ...kept2.slice(at)],
    twice
  };
};

// core/src/steps/unpivot/trace.ts
var unpivotTrace = {
  cells: (params, { before, lineage, back }, column, rows2) => {
    const { turns, values } = layout6(params, before.schema);
    const group = values.findIndex(({ name: value }) => value === column);
    if (group < 0 || lineage.kind !== "index") return void 0;
    const { turn } = lineage;
    return turns.flatMap(({ columns }, t) => {
      const taken = rowsWhere2(rows2, (row) => (turn ? turn[row] : row % turns.length) === t);
      const name2 = columns[group];
      return taken.rows.length === 0 || name2 === void 0 ? [] : [{ column: name2, rows: back(taken) }];
    });
  },
  leftBy: () => [],
  left: (params, { before }, row) => {
    const { turns } = layout6(params, before.schema);
    return turns.every(
      ({ columns }) => columns.every((name2) => name2 === void 0 || before.isNull(before.positionOf(name2), row))
    ) ? "all of these cells are empty" : void 0;
  }
};

// core/src/steps/unpivot/index.ts
var interleavedLabels = (labels, times2) => {
  const { indices: turns, dictionary: dictionary2 } = asDictionary(
    columnOf(
      "text",
      labels.map((label) => label || null)
    )
  );
  const codes = uint32s(labels.length * times2);
  codes.set(turns.subarray(0, Math.min(turns.length, codes.length)));
  for (let done = turns.length; done > 0 && done < codes.length; done *= 2)
    codes.copyWithin(done, 0, Math.min(done, codes.length - done));
  return { type: "text", form: "dictionary", indices: codes, dictionary: dictionary2 };
};
var emptyRows = (columns) => {
  const maps = columns.map(emptyCells);
  const [first2] = maps;
  if (!first2 || maps.some((map2) => map2 === void 0)) return void 0;
  const all = first2.slice();
  for (const map2 of maps) for (let i = 0; i < all.length; i++) all[i] = all[i] & map2[i];
  return all;
};
var emptyCells = (column) => {
  if (!isTextColumn(column)) return column.nulls;
  const empty = bitmap(lengthOf(column));
  let any = false;
  for (let i = 0, n = lengthOf(column); i < n; i++)
    if (isNullAt(column, i)) {
      set(empty, i);
      any = true;
    }
  return any ? empty : void 0;
};
var countBits = (map2) => {
  const n = map2.length;
  let count3 = 0;
  for (let i = 0; i < n; i++) for (let bits = map2[i]; bits !== 0; bits &= bits - 1) count3++;
  return count3;
};
var filledPlaces = (empty, rowCount) => {
  const places3 = int32s(rowCount * empty.length);
  let count3 = 0;
  for (let row = 0, place = 0; row < rowCount; row++)
    for (let turn = 0; turn < empty.length; turn++, place++) if (!isSet(empty[turn], row)) places3[count3++] = place;
  return places3.subarray(0, count3);
};
var inTurns = (type, columns) => {
  const count3 = columns.length;
  if (count3 === 0) return emptyColumn(type, 0);
  return new LazyColumn({
    type,
    length: count3 * (columns[0] ? lengthOf(columns[0]) : 0),
    holds: () => columns.flatMap(columnBuffers),
    turns: columns,
    cell: (place) => cellAt(columns[place % count3], Math.floor(place / count3)),
    make: () => interleave(type, columns)
  });
};
var labelsInTurns = (labels, rowCount) => new LazyColumn({
  type: "text",
  length: rowCount * labels.length,
  holds: () => [],
  again: true,
  cell: (place) => labels[place % labels.length] || null,
  make: () => interleavedLabels(labels, rowCount)
});
var widenSql2 = (part2, from, to) => {
  if (from === to) return part2;
  if (to === "text") return sql`${sqlHelper("shown")}(${part2})`;
  return sql`${part2}::${code(to === "decimal" ? "float8" : "timestamp")}`;
};
var turnsInRows = (params, from, input, column) => {
  const { turns, values } = layout6(params, input);
  const typeOf5 = (one2) => input.find((field) => field.name === one2)?.type ?? "text";
  const rows2 = turns.map(
    (turn, i) => sql`(${i + 1}, nullif(${turn.label}::text, ''), ${joined(
      values.map(
        ({ type }, g) => turn.columns[g] === void 0 ? sql`null::${sqlTypeName(type)}` : widenSql2(sql`t.${column(turn.columns[g])}`, typeOf5(turn.columns[g]), type)
      ),
      ", "
    )})`
  );
  const parts2 = values.map((_, g) => code(`v${g + 1}`));
  const filled2 = params.empty === "drop" ? sql`\nwhere ${joined(
    parts2.map((part2) => sql`u.${part2} is not null`),
    " or "
  )}` : code("");
  return sql`${from} t cross join lateral (values ${joined(rows2, ", ")}) u(turn, label, ${joined(parts2, ", ")})${filled2}`;
};
var patternWords = (pattern2) => {
  const words3 = /^\^\(\?:(.+?)\)\[\\s_\.\/:-\]\+\|/.exec(pattern2)?.[1];
  return words3 === void 0 ? `without what matches ${pattern2}` : `without ${listed(
    words3.split("|").map((word2) => quoted(word2.replace(/\\(.)/g, "$1"))),
    "or"
  )}`;
};
var labelWords = ({ remove, renames } = {}) => {
  const parts2 = [
    ...remove === void 0 || remove === "" ? [] : [typeof remove === "string" ? `without ${quoted(remove)}` : patternWords(remove.pattern)],
    ...renames && Object.keys(renames).length > 0 ? [`${counted(Object.keys(renames).length, "of them", "of them")} called otherwise`] : []
  ];
  return parts2.length === 0 ? "name" : `name ${listed(parts2)}`;
};
var groupWords2 = (params) => {
  const [first2] = params.groups;
  const label = [
    "the ",
    slot(labelWords(params.labels), "labels", ["labels"]),
    " as ",
    slot(params.name, "name", ["name"])
  ];
  if (params.groups.length === 1 && first2)
    return [
      "Turn ",
      columnsSlot(first2.columns, "groups", 0, "columns"),
      " into rows: ",
      ...label,
      ", the value as ",
      slot(first2.value, "name", ["groups", 0, "value"])
    ];
  const groups = params.groups.flatMap(({ columns, value }, g) => {
    const separator = () => {
      if (g === 0) return "";
      if (g === params.groups.length - 1) return " and ";
      return ", ";
    };
    return [
      separator(),
      columnsSlot(columns, "groups", g, "columns"),
      " as ",
      slot(value, "name", ["groups", g, "value"])
    ];
  });
  return ["Turn ", ...groups, " into rows side by side: ", ...label];
};
var unpivotDrafts = (columns, schema, rank3) => {
  if (columns.length === 0) return [];
  const { kind: _kind, ...params } = unpivotFor(columns, schema);
  const crosstab = crosstabSteps(columns, schema);
  return [
    { rank: rank3, params },
    ...crosstab ? [
      {
        rank: rank3,
        verb: "Tidy a crosstab with two lines of names",
        words: ["crosstab", "two headers", "unpivot", "year above measure", "tidy", "multi level header"],
        params: crosstab.unpivot,
        then: crosstab.then
      }
    ] : []
  ];
};
var isPlain2 = ({ groups, name: name2, labels, before, after }, input) => {
  const [group] = groups;
  if (!group || groups.length > 1 || labels || before !== void 0 || after !== void 0) return false;
  if (Array.isArray(group.columns) || !("except" in group.columns)) return false;
  if (name2 === group.value || input.some((field) => field.name === name2 || field.name === group.value)) return false;
  const gathered2 = selected(group.columns, input);
  return gathered2.length > 0 && gathered2.every(({ type }) => type === "text" || isNumber(type));
};
var plainPython4 = ({ groups, name: name2, empty }, frame) => {
  const { columns, value } = groups[0];
  return lines(
    py`${frame} = ${pyHelper("to_rows")}(${frame}, ${selectorPython(columns, frame)}, ${name2}, ${value})`,
    empty === "drop" ? py`${frame} = ${frame}.dropna(subset=[${value}]).reset_index(drop=True)` : void 0
  );
};
var unpivot = defineStep({
  reshapes: true,
  shownAfter: true,
  consumes: true,
  figures: ({ rowsIn, rowsOut, notes }) => [
    plainFigure(`${counted(notes.gatheredColumns ?? 0, "column")} became rows`),
    plainFigure(`${figure(rowsIn)} \u2192 ${counted(rowsOut, "row")}`),
    ...figureIf(notes.emptyCells, (n) => ({ text: `${figure(n)} empty`, tone: "changed", only: "all" }))
  ],
  kind: "unpivot",
  verb: "Turn columns into rows",
  words: ["unpivot", "melt", "columns to rows", "gather", "longer", "stack", "transpose", "crosstab", "tidy", "long"],
  params: z42.strictObject({
    name,
    groups: z42.array(z42.strictObject({ columns: selectorSchema, value: name })).min(1),
    labels: z42.strictObject({
      remove: z42.union([z42.string(), z42.strictObject({ pattern: z42.string().min(1) })]).optional(),
      renames: z42.record(z42.string(), z42.string()).optional()
    }).optional(),
    empty: z42.enum(["keep", "drop"]).optional(),
    ...placeSchema
  }),
  drafts: {
    table: ({ schema }) => {
      const all = schema.map(({ name: name2 }) => name2);
      const numbers4 = numbersOf(all, schema);
      return unpivotDrafts(numbers4.length > 1 ? numbers4 : all.slice(1), schema, 100);
    },
    columns: ({ columns, schema }) => columns.length > 1 ? unpivotDrafts(columns, schema, 270) : []
  },
  sentence: (params) => {
    const { empty = "keep" } = params;
    return [
      ...groupWords2(params),
      ", and ",
      slot(
        empty === "keep" ? "keep the empty ones" : "leave out the empty ones",
        "choice",
        ["empty"],
        [
          ["keep", "keep the empty ones"],
          ["drop", "leave out the empty ones"]
        ]
      ),
      "."
    ];
  },
  output: (params, input, context) => {
    params.groups.forEach(({ columns }, g) => {
      const fields = checkSelector(columns, input, context, "groups", g, "columns");
      if (fields.length === 0 && !Array.isArray(columns))
        context.report({ code: "no-columns-chosen", selector: "that rule" }, "groups", g, "columns");
    });
    checkPlace(params, input, context);
    const remove = params.labels?.remove;
    const why = typeof remove === "object" ? patternProblem2(remove.pattern) : void 0;
    if (why && typeof remove === "object") {
      context.report({ code: "bad-pattern", pattern: remove.pattern, why }, "labels", "remove", "pattern");
      return input;
    }
    const { schema, twice } = layout6(params, input);
    for (const label of new Set(twice)) context.report({ code: "twice-labelled", label }, "labels");
    return schema;
  },
  run: (params, table) => {
    const { turns, kept: kept2, gathered: gathered2, label, values, at } = layout6(params, table.schema);
    checkSize("Turning these columns into rows", table.rowCount * turns.length, kept2.length + 1 + values.length);
    const columns = values.map(
      ({ type }, g) => turns.map(
        ({ columns: all2 }) => all2[g] === void 0 ? emptyColumn(type, table.rowCount) : convert(table.named(all2[g]), { type }).column
      )
    );
    const empty = turns.map((_, turn) => emptyRows(columns.map((all2) => all2[turn])));
    const each = repeatEach(table.rowCount, turns.length);
    const dropped = params.empty === "drop" && empty.some((one2) => one2 !== void 0);
    const places3 = dropped ? filledPlaces(empty, table.rowCount) : void 0;
    const index = places3 ? places3.map((place) => each[place]) : each;
    const all = Table.of(
      [label, ...values.map((field) => field.name)],
      [
        labelsInTurns(
          turns.map((turn) => turn.label),
          table.rowCount
        ),
        ...values.map(({ type }, g) => inTurns(type, columns[g] ?? []))
      ],
      each.length
    );
    const first2 = table.select(kept2.map((field) => table.positionOf(field.name))).rows(index);
    return {
      table: first2.around(at, places3 ? all.rows(places3) : all),
      lineage: {
        kind: "index",
        index,
        ...places3 ? {} : { kept: turns.length > 0 ? table.rowCount : 0 },
        ...places3 ? { turn: places3.map((place) => place % turns.length) } : {}
      },
      notes: {
        gatheredColumns: gathered2,
        emptyCells: empty.reduce((sum, one2) => sum + (one2 ? countBits(one2) : 0), 0)
      }
    };
  },
  trace: unpivotTrace,
  columnLineage: (params, input) => Object.fromEntries(layout6(params, input).kept.map((field) => [field.name, field.name])),
  scripts: {
    sql: (params, { from, input, output, column }) => {
      const { label, values } = layout6(params, input);
      const names3 = output.map((field) => {
        const g = values.findIndex((one2) => one2.name === field.name);
        if (field.name === label) return sql`u.label as ${column(label)}`;
        if (g >= 0) return sql`u.${code(`v${g + 1}`)} as ${column(field.name)}`;
        return sql`t.${column(field.name)}`;
      });
      return sql`select row_number() over (order by t."¶", u.turn) as "¶", ${names3}\nfrom ${turnsInRows(params, from, input, column)}`;
    },
    sqlRows: (params, { from, input, column }) => [
      {
        rows: sql`select row_number() over (order by t."¶", u.turn) as "¶", t."¶" as was from ${turnsInRows(params, from, input, column)}`
      }
    ],
    spark: "repeats",
    python: (params, { frame, input, plain: plain4 }) => {
      if (plain4 && isPlain2(params, input)) return plainPython4(params, frame);
      const { remove, renames } = params.labels ?? {};
      const labels = [
        ...remove === void 0 || remove === "" ? [] : [
          typeof remove === "string" ? py`, remove=${remove}` : py`, remove_pattern=${patternPython(remove.pattern)}`
        ],
        ...renames ? [
          py`, renames={${joined(
            Object.entries(renames).map(([from, to]) => py`${from}: ${to}`),
            ", "
          )}}`
        ] : []
      ];
      const groups = params.groups.map(({ columns, value }) => py`(${selectorPython(columns, frame)}, ${value})`);
      return py`${frame} = ${pyHelper("unpivot")}(${frame}, [${joined(groups, ", ")}], name=${params.name}, drop_empty=${params.empty === "drop"}${joined(labels, "")}${placePython(params)})`;
    }
  },
  absorbs: (params, column, input) => params.groups.some(({ columns }) => selectedNames(columns, input).includes(column))
});

// core/src/steps/unroll/index.ts
import { z as z43 } from "zod";
var typeOfItems = (lists) => {
  let type;
  for (const items2 of lists)
    for (const item of items2) {
      if (item === null) continue;
      const chooseOwn = () => {
        if (typeof item === "boolean") return "boolean";
        if (typeof item === "number") {
          if (Number.isSafeInteger(item)) return "integer";
          return "decimal";
        }
        return "text";
      };
      const own2 = chooseOwn();
      if (type === void 0 || type === own2) type = own2;
      else if ((type === "integer" || type === "decimal") && (own2 === "integer" || own2 === "decimal")) type = "decimal";
      else return "text";
    }
  return type ?? "text";
};
var cellOf3 = (item, type) => {
  if (item === null) return null;
  if (type === "text") return itemText(item) || null;
  return item;
};
var itemSql3 = (type) => {
  if (type === "text") return sql`nullif(u.shown_item, '')`;
  if (type === "integer") return sql`u.shown_item::numeric::bigint`;
  if (type === "decimal") return sql`u.shown_item::float8`;
  return sql`u.shown_item::boolean`;
};
var itemsInRows = (wanted, from, column) => sql`${from} t left join lateral ${sqlHelper("items_of")}(t.${column(wanted)}) u on true`;
var unroll = defineStep({
  reshapes: true,
  kind: "unroll",
  verb: "Make a row of each item",
  words: ["unroll", "explode", "unnest", "list to rows", "expand list", "flatten"],
  params: z43.strictObject({ column: name }),
  drafts: {
    columns: ({ columns: [column = "", ...more], schema }) => more.length === 0 && typeIn(schema, column) === "list" ? [{ rank: 190, params: { column } }] : []
  },
  sentence: ({ column }) => ["Make a row of each item of ", slot(column, "oneColumn", ["column"]), "."],
  output: ({ column }, input, context) => {
    const field = checkColumn(column, input, context, "column");
    if (field && field.type !== "list")
      context.report({ code: "wrong-type", column, type: field.type, needs: "lists" }, "column");
    return input.map((one2) => one2.name === column ? { name: column, type: "text" } : one2);
  },
  /** What the items are, their column's type does not say. */
  dynamicTypes: ({ column }) => [column],
  run: ({ column }, table) => {
    const at = table.positionOf(column);
    const { indices, dictionary: dictionary2 } = asDictionary(table.column(at));
    const lists = dictionary2.map((word2) => word2 === "" ? [] : itemsOf(word2));
    const type = typeOfItems(lists);
    checkSize(
      "A row for each item",
      indices.reduce((sum, code2) => sum + Math.max(1, lists[code2]?.length ?? 0), 0)
    );
    const rows2 = new IntList();
    const items2 = [];
    let most = 0;
    for (let row = 0; row < indices.length; row++) {
      const list3 = lists[indices[row]] ?? [];
      if (list3.length > most) most = list3.length;
      for (const item of list3.length > 0 ? list3 : [null]) {
        rows2.push(row);
        items2.push(item);
      }
    }
    const index = rows2.done();
    const writer = columnWriter(type, items2.length);
    items2.forEach((item, i) => writer.set(i, cellOf3(item, type)));
    return {
      table: table.rows(index).with(at, column, writer.done(), true),
      lineage: { kind: "index", index },
      notes: { items: most }
    };
  },
  scripts: {
    sql: ({ column: wanted }, { from, output, column }) => {
      const names3 = output.map(
        (field) => field.name === wanted ? sql`${itemSql3(field.type)} as ${column(wanted)}` : sql`t.${column(field.name)}`
      );
      return sql`select row_number() over (order by t."¶", u.n) as "¶", ${names3}\nfrom ${itemsInRows(wanted, from, column)}`;
    },
    sqlRows: ({ column: wanted }, { from, column }) => [
      {
        rows: sql`select row_number() over (order by t."¶", u.n) as "¶", t."¶" as was from ${itemsInRows(wanted, from, column)}`
      }
    ],
    spark: ({ column }, { frame }) => py`${frame} = ${sparkHelper("unroll_rows")}(${frame}, ${column})`,
    python: ({ column }, { frame }) => py`${frame} = ${pyHelper("unroll")}(${frame}, ${column})`
  }
});

// core/src/steps/window/trace.ts
var ofPlace = ["rank", "dense-rank", "row-number"];
var rowsUpTo = (table, column, { groups, order: order2 }, rows2) => {
  const values = table.named(column);
  const own2 = timesOfRows(rows2, table.rowCount);
  const entered = uint32s(groups.count);
  const counter = new RowCounter(table.rowCount);
  for (let i = order2.length - 1; i >= 0; i--) {
    const row = order2[i];
    const group = groups.ids[row];
    entered[group] = entered[group] + own2[row];
    if (entered[group] > 0 && !isNullAt(values, row)) counter.add(row, entered[group]);
  }
  return counter.done();
};
var windowSources = ({ how, column }, table, walked, rows2) => {
  const { groups, order: order2, neighbours: neighbours2 } = walked;
  if (neighbours2 && column !== void 0) return [{ column, rows: throughIndex(rows2, neighbours2, table.rowCount) }];
  if (how === "running-sum" && column !== void 0) return [{ column, rows: rowsUpTo(table, column, walked, rows2) }];
  const figured = how === "share" && column !== void 0 ? rowsWhere2(rows2, (row) => !isNullAt(table.named(column), row)) : rows2;
  const wanted = throughIndex(figured, Int32Array.from(groups.ids), groups.count);
  const measure = ofPlace.includes(how) ? { how: "count" } : { how, column };
  return measureSources(table, measure, wanted, groups.ids, order2);
};

// core/src/steps/window/index.ts
import { z as z44 } from "zod";

// core/src/steps/window/layout.ts
var ordered = ["running-sum", "rank", "dense-rank", "row-number", "previous", "next"];
var windowHows = [...aggregates, ...ordered];
var needsNone = (how) => how === "count" || how === "rank" || how === "dense-rank" || how === "row-number";
var typeOf4 = ({ how, column }, input) => {
  const type = input.find((field) => field.name === column)?.type ?? "integer";
  if (how === "rank" || how === "dense-rank" || how === "row-number") return "integer";
  if (how === "previous" || how === "next") return type;
  if (how === "running-sum") {
    if (type === "integer") return "integer";
    return "decimal";
  }
  return measureType(how, type);
};
var fieldsOf = ({ measures }, input) => {
  const taken = input.map((field) => field.name);
  return measures.map((measure) => {
    const free = freeName(measure.as, taken);
    taken.push(free);
    return { name: free, type: typeOf4(measure, input) };
  });
};
var byOf2 = ({ by }) => by ?? [];

// core/src/steps/window/plain-python.ts
var neighbour = ({ how, column = "", offset = 1 }, type) => {
  const shifted2 = py`groups[${column}].shift(${how === "previous" ? offset : -offset})`;
  return pandasTypes[type] ? shifted2 : py`${shifted2}.astype(object).where(lambda x: x.notna(), None)`;
};
var groupedBy = (names3, frame) => names3.length > 0 ? py`${[...new Set(names3)]}, sort=False, dropna=False` : py`np.zeros(len(${frame}))`;
var groupedSeries = (names3, frame) => {
  const columns = [...new Set(names3)].map((name2) => py`${frame}[${name2}]`);
  return columns.length > 0 ? py`[${joined(columns, ", ")}], sort=False, dropna=False` : groupedBy([], frame);
};
var ranked2 = (target, dense, params, frame) => {
  const { order: order2 = [] } = params;
  const by = Array.isArray(params.by) ? params.by : [];
  const ties = order2.length > 0 ? [...by, ...order2.map(({ column }) => column)] : by;
  return lines(
    py`rank = groups.cumcount() + 1`,
    py`rank = rank.groupby(${groupedSeries(ties, frame)}).transform("min")`,
    dense ? py`rank = rank.groupby(${groupedSeries(by, frame)}).rank(method="dense")` : void 0,
    py`${target} = rank.astype("Int64")`
  );
};
var ofGroup = (how, column, context, made3) => {
  const type = typeIn(context.input, column);
  const isPlace = (how === "first" || how === "last") && type === "decimal";
  const way = isPlace ? pandasAggregate(how, type) : pandasFigure(how, type);
  const of = how === "count" ? context.input[0]?.name : column;
  return way && py`groups[${of ?? ""}].transform(${way}).astype(${pandasTypes[made3.type] ?? "object"})`;
};
var valuesOf3 = (measure, context, made3) => {
  const { how, column = "" } = measure;
  if (how === "share" || how === "rank" || how === "dense-rank") return void 0;
  if (how === "row-number") return py`(groups.cumcount() + 1).astype("Int64")`;
  if (how === "previous" || how === "next") return neighbour(measure, made3.type);
  if (how !== "running-sum") return ofGroup(how, column, context, made3);
  const isDecimal = typeIn(context.input, column) === "decimal";
  return isDecimal ? py`groups[${column}].transform(${pyHelper("running_sum")})` : void 0;
};
var columnCode = (measure, made3, params, context) => {
  const { frame, closed } = context;
  const { how, column = "", as } = measure;
  const target = py`${frame}[${closed ? made3.name : py`${pyHelper("free_name")}(${as}, list(${frame}))`}]`;
  if (how === "rank" || how === "dense-rank") return ranked2(target, how === "dense-rank", params, frame);
  if (how === "share") {
    const floats = typeIn(context.input, column) === "integer" ? code('.astype("float64")') : code("");
    return lines(
      py`total = groups[${column}].transform(${pyHelper("exact_sum")})`,
      py`${target} = ${frame}[${column}]${floats} / total.where(total != 0)`
    );
  }
  const values = valuesOf3(measure, context, made3);
  return values && py`${target} = ${values}`;
};
var plainWindow = (params, made3, context) => {
  const { frame, plain: plain4 } = context;
  const { by = [], order: order2, before, after } = params;
  if (!plain4 || !Array.isArray(by) || before !== void 0 || after !== void 0) return void 0;
  if (order2 && !sortsAlike(order2)) return void 0;
  const columns = params.measures.map((measure, i) => columnCode(measure, made3[i], params, context));
  if (columns.includes(void 0)) return void 0;
  const rows2 = order2 ? sortedByValues(frame, order2) : frame;
  return lines(py`groups = ${rows2}.groupby(${groupedBy(by, frame)})`, ...columns);
};

// core/src/steps/window/index.ts
var windowWords = {
  ...howWords,
  share: "the share in its group of",
  "running-sum": "the running sum of",
  rank: "the rank",
  "dense-rank": "the rank without gaps",
  "row-number": "the number of the row",
  previous: "the previous",
  next: "the next"
};
var walkOf = (params, table) => {
  const groups = groupRows(
    table,
    keysOf(byOf2(params), table.schema).map(({ name: name2 }) => name2)
  );
  const order2 = params.order ? orderOf(params.order, table) : sliceRows(table.rowCount);
  const ties = params.order ? groupRows(
    table,
    params.order.map(({ column }) => column)
  ).ids : void 0;
  return { groups, order: order2, ties };
};
var walkedFor = ({ how, offset = 1 }, walk) => {
  const isNeighbour = how === "previous" || how === "next";
  return { ...walk, neighbours: isNeighbour ? neighbours(walk, how === "previous" ? offset : -offset) : void 0 };
};
var ranks = ({ groups, order: order2, ties }, dense) => {
  const values = float64s(order2.length);
  const seen2 = int32s(groups.count);
  const last = int32s(groups.count).fill(-1);
  const rank3 = int32s(groups.count);
  const { ids } = groups;
  for (let k = 0, n = order2.length; k < n; k++) {
    const row = order2[k];
    const g = ids[row];
    seen2[g] = seen2[g] + 1;
    const tie = ties ? ties[row] : 0;
    if (last[g] !== tie || seen2[g] === 1) rank3[g] = dense ? rank3[g] + 1 : seen2[g];
    last[g] = tie;
    values[row] = rank3[g];
  }
  return { type: "integer", values, nulls: void 0 };
};
var numbers3 = ({ groups, order: order2 }) => {
  const values = float64s(order2.length);
  const seen2 = int32s(groups.count);
  const { ids } = groups;
  for (let k = 0, n = order2.length; k < n; k++) {
    const row = order2[k];
    const g = ids[row];
    seen2[g] = seen2[g] + 1;
    values[row] = seen2[g];
  }
  return { type: "integer", values, nulls: void 0 };
};
var neighbours = ({ groups, order: order2 }, offset) => {
  const lists = Array.from({ length: groups.count }, () => []);
  for (const row of order2) lists[groups.ids[row]]?.push(row);
  const index = int32s(order2.length).fill(-1);
  for (const rows2 of lists) for (let k = 0; k < rows2.length; k++) index[rows2[k]] = rows2[k - offset] ?? -1;
  return index;
};
var running = (column, { groups, order: order2 }, type) => {
  const sum = float64s(groups.count);
  const lost = float64s(groups.count);
  const begun = int32s(groups.count);
  const values = float64s(order2.length);
  const empty = bitmap(order2.length);
  const failures = new IntList();
  const limit = type === "integer" ? maxInteger : Number.MAX_VALUE;
  const { ids } = groups;
  let anyEmpty = false;
  for (let k = 0, n = order2.length; k < n; k++) {
    const row = order2[k];
    const g = ids[row];
    if (!isSet(column.nulls, row)) {
      const x = column.values[row];
      const s = sum[g];
      const t = s + x;
      lost[g] = lost[g] + (Math.abs(s) >= Math.abs(x) ? s - t + x : x - t + s);
      sum[g] = t;
      begun[g] = 1;
    }
    const value = sum[g] + lost[g];
    if (begun[g] === 1 && Math.abs(value) <= limit) {
      values[row] = value === 0 ? 0 : value;
      continue;
    }
    anyEmpty = true;
    set(empty, row);
    if (begun[g] === 1) failures.push(row);
  }
  return {
    column: { type: type === "integer" ? type : "decimal", values, nulls: anyEmpty ? empty : void 0 },
    failures: failures.done().sort()
  };
};
var shares = (column, { ids, count: count3 }) => {
  const { sums: totals } = kernels().groupTotals(column.values, column.nulls, ids, count3);
  const writer = columnWriter("decimal", ids.length);
  const failures = new IntList();
  for (let i = 0; i < ids.length; i++) {
    if (isNullAt(column, i)) continue;
    const total = totals[ids[i]];
    if (total === 0) failures.push(i);
    else writer.set(i, column.values[i] / total);
  }
  return { column: writer.done(), failures: failures.done() };
};
var figureFor = (measure, table, walk, order2, type) => {
  const { how, column, offset = 1 } = measure;
  const whole5 = (made3) => ({ column: made3, failures: int32s(0) });
  if (how === "rank" || how === "dense-rank") return whole5(ranks(walk, how === "dense-rank"));
  if (how === "row-number") return whole5(numbers3(walk));
  const from = column === void 0 ? void 0 : table.named(column);
  if (how === "previous" || how === "next")
    return whole5(gather(from, neighbours(walk, how === "previous" ? offset : -offset)));
  if (how === "running-sum") return running(from, walk, type);
  if (how === "share") return shares(from, walk.groups);
  const { column: perGroup, failures } = runMeasure(
    { how, column, separator: measure.separator, ...(how === "first" || how === "last") && order2 ? { order: order2 } : {} },
    table,
    walk.groups,
    type
  );
  const bad = new Set(failures);
  return {
    column: layOut(perGroup, walk.groups.ids),
    failures: bad.size === 0 ? failures : Int32Array.from(walk.groups.ids.keys()).filter((row) => bad.has(walk.groups.ids[row]))
  };
};
var measureText = ({ how, column, as, offset = 1 }) => `${offset === 1 || !(how === "previous" || how === "next") ? windowWords[how] : `${windowWords[how]}, ${offset} away,`}${column === void 0 || needsNone(how) ? "" : ` ${column}`} as ${as}`;
var window = defineStep({
  groupsByNone: true,
  kind: "window",
  verb: "Put a figure of its group beside every row\u2026",
  words: [
    "window",
    "running total",
    "cumulative",
    "rank",
    "previous",
    "next",
    "lag",
    "lead",
    "share of total",
    "percent of total",
    "group total",
    "beside",
    "partition",
    "over",
    "first",
    "latest"
  ],
  params: z44.strictObject({
    by: bySchema.optional(),
    order: sortKeysSchema.optional(),
    measures: z44.array(
      z44.strictObject({
        how: z44.enum(windowHows),
        column: name.optional(),
        as: name,
        offset: z44.number().int().min(1).optional(),
        separator: z44.string().optional()
      }).refine(({ how, column }) => needsNone(how) || column !== void 0, {
        message: "this measure needs a column",
        path: ["column"]
      })
    ).min(1),
    ...placeSchema
  }),
  drafts: {
    table: ({ schema }) => {
      const key = schema.find(({ type }) => type !== "integer" && type !== "decimal");
      return [{ rank: 130, params: { by: key ? [key.name] : [], measures: [{ how: "count", as: "Rows of it" }] } }];
    }
  },
  sentence: ({ by = [], order: order2, measures }) => [
    "Beside every row put ",
    slot(listed(measures.map(measureText)), "windowMeasures", ["measures"]),
    ", ",
    ...byWords(by) === "" ? ["over ", slot("all rows", "columns", ["by"])] : ["for each ", slot(byWords(by), "columns", ["by"])],
    ...order2 ? [", by ", slot(sortWords(order2), "sortKeys", ["order"])] : [],
    "."
  ],
  output: (params, input, context) => {
    checkBy(byOf2(params), input, context, "by");
    if (params.order) checkSortKeys(params.order, input, context, "order");
    params.measures.forEach((measure, i) => checkMeasure(measure, input, context, "measures", i));
    checkPlace(params, input, context);
    const at = positionFor(
      params,
      input.map((field) => field.name)
    );
    return [...input.slice(0, at), ...fieldsOf(params, input), ...input.slice(at)];
  },
  run: (params, table) => {
    const fields = fieldsOf(params, table.schema);
    const walk = walkOf(params, table);
    const { groups } = walk;
    const at = positionFor(params, table.names);
    let result = table;
    const unreadable = [];
    params.measures.forEach((measure, i) => {
      const field = fields[i];
      const { column, failures } = figureFor(measure, table, walk, params.order, field.type);
      result = result.with(at + i, field.name, column);
      if (failures.length > 0) unreadable.push({ column: field.name, rows: failures });
    });
    return { table: result, lineage: { kind: "same" }, unreadable, notes: { groups: groups.count } };
  },
  trace: {
    cells: (params, { before }, column, rows2) => {
      const measure = params.measures[fieldsOf(params, before.schema).findIndex(({ name: made3 }) => made3 === column)];
      return measure ? windowSources(measure, before, walkedFor(measure, walkOf(params, before)), rows2) : void 0;
    }
  },
  scripts: {
    sql: (params, context) => {
      const { from, input, column } = context;
      const keys = keysOf(byOf2(params), input).map((field) => column(field.name));
      const fields = fieldsOf(params, input);
      const by = params.order ? sql`${sortSql(params.order, input, column)}, ` : code("");
      const rows2 = sql`(partition by "¶g" order by ${by}"¶" rows unbounded preceding)`;
      const ties = sql`(partition by "¶g"${params.order ? sql` order by ${sortSql(params.order, input, column)}` : code("")})`;
      const grouped = [];
      const parts2 = params.measures.map((measure, i) => {
        const { how, column: wanted, offset = 1, separator } = measure;
        const cell = wanted === void 0 ? code("") : column(wanted);
        const type = input.find((field) => field.name === wanted)?.type;
        const figure2 = (inner) => {
          grouped.push(sql`${inner} as ${code(`"\xB6m${i}"`)}`);
          return code(`g."\xB6m${i}"`);
        };
        if (how === "rank" || how === "dense-rank")
          return sql`${code(how === "rank" ? "rank" : "dense_rank")}() over ${ties}`;
        if (how === "row-number") return sql`row_number() over ${rows2}`;
        if (how === "previous" || how === "next")
          return sql`${code(how === "previous" ? "lag" : "lead")}(${cell}, ${offset}) over (partition by "¶g" order by ${by}"¶")`;
        if (how === "running-sum")
          return type === "integer" ? sql`${sqlHelper("whole")}(sum(${cell}) over ${rows2})` : sql`${sqlHelper("exact_sum")}(${cell}) over ${rows2}`;
        if (how === "share")
          return sql`${sqlHelper("op_divide")}(${cell}::float8, (${figure2(type === "integer" ? sql`sum(${cell})` : sql`${sqlHelper("exact_sum")}(${cell} order by "¶")`)})::float8)`;
        return figure2(
          measureSql(
            {
              how,
              column: wanted,
              separator,
              ...(how === "first" || how === "last") && params.order ? { order: params.order } : {}
            },
            input,
            column
          )
        );
      });
      const made3 = Object.fromEntries(fields.map((field, i) => [field.name, parts2[i]]));
      const numbered = sql`with rows_of as (select *, ${keys.length > 0 ? sql`dense_rank() over (order by ${keys})` : code("1")} as "¶g" from ${from})`;
      const source = grouped.length > 0 ? sql`rows_of t join (select "¶g", ${grouped} from rows_of group by "¶g") g using ("¶g")` : code("rows_of t");
      return sql`${numbered}\n${selectColumns({ ...context, from: source }, made3)}`;
    },
    spark: "table",
    python: (params, context) => {
      const { frame, input } = context;
      const fields = fieldsOf(params, input);
      const plain4 = plainWindow(params, fields, context);
      if (plain4) return plain4;
      const measures = params.measures.map(({ how, column, as, offset, separator }, i) => {
        const more = [
          ...offset === void 0 ? [] : [py`"offset": ${offset}`],
          ...separator === void 0 ? [] : [py`"separator": ${separator}`]
        ];
        return py`(${how}, ${needsNone(how) ? null : column ?? null}, ${as}, ${fields[i].type}, {${joined(more, ", ")}})`;
      });
      return py`${frame} = ${pyHelper("window")}(${frame}, ${byWords(byOf2(params)) === "" ? code("[]") : selectorPython(byOf2(params), frame)}, ${params.order ? sortPython(params.order) : code("None")}, [${joined(measures, ", ")}]${placePython(params)})`;
    }
  },
  absorbs: (params, column, input) => keysOf(byOf2(params), input).some((field) => field.name === column)
});

// core/src/steps/index.ts
var stepKinds = {
  open,
  "start-from": startFrom,
  enter,
  select: select2,
  drop,
  rename,
  move,
  duplicate,
  cast,
  header,
  filter,
  sort,
  slice,
  distinct: distinct2,
  number: number2,
  fill: fill2,
  replace,
  "fill-empty": fillEmpty,
  blank,
  "clean-text": cleanText,
  unify: unify2,
  derive,
  cases,
  split,
  extract: extract2,
  combine,
  unpivot,
  pivot,
  transpose,
  summarise,
  window,
  unroll,
  join,
  union,
  check: check2
};
var byName2 = stepKinds;
var kindNamed = (name2) => ownValue(byName2, name2);

// core/src/recipe/column-aliases.ts
var storyNames = (names3, known3) => {
  const taken = new Set(names3);
  return names3.map((name2) => {
    const to = Object.hasOwn(known3, name2) ? ownValue(known3, name2) : name2;
    if (to === name2 || taken.has(to)) return name2;
    taken.add(to);
    return to;
  });
};
var readWith = (read2, known3) => {
  const { types } = read2;
  if (typeof types !== "object" || Object.keys(known3).length === 0) return read2;
  const typesOfKnown = Object.entries(known3).flatMap(([from, to]) => {
    const type = ownValue(types, to);
    return type ? [[from, type]] : [];
  });
  return { ...read2, types: { ...Object.fromEntries(typesOfKnown), ...types } };
};

// core/src/recipe/used-tables.ts
var usedTables = ({ id: _id, kind, note: _note, off, ...params }) => off ? [] : kindNamed(kind)?.uses?.(params) ?? [];

// core/src/recipe/step-access.ts
var kindOf2 = (step) => {
  const kind = kindNamed(step.kind);
  if (!kind) throw new Error(`no step kind ${step.kind}`);
  return kind;
};
var paramsOf = ({ id: _id, kind: _kind, note: _note, off: _off, ...params }) => params;
var sentenceFor = (step, names3) => kindOf2(step).sentence(paramsOf(step), names3);
var sentenceText = (step, names3) => sentenceFor(step, names3).map((part2) => typeof part2 === "string" ? part2 : part2.text).join("");
var parameterTypes = (recipe2) => Object.fromEntries((recipe2.parameters ?? []).map(({ name: name2, type }) => [name2, type]));
var openedBy = (step) => kindOf2(step).opens?.(paramsOf(step));
var openedInputs = (recipe2) => recipe2.tables.flatMap(({ steps: steps2 }) => steps2.flatMap((step) => openedBy(step) ?? []));
var inOrder2 = (recipe2) => {
  const done = [];
  const visit = (table, above) => {
    if (done.includes(table) || above.includes(table.id)) return;
    for (const id of table.steps.flatMap(usedTables)) {
      const other = recipe2.tables.find((one2) => one2.id === id);
      if (other) visit(other, [...above, table.id]);
    }
    done.push(table);
  };
  for (const table of recipe2.tables) visit(table, []);
  return done;
};
var tablesNeeded = (recipe2, table, usedBy = usedTables) => {
  const needed = [];
  const visit = (id) => {
    if (needed.includes(id)) return;
    needed.push(id);
    for (const other of recipe2.tables.find((one2) => one2.id === id)?.steps.flatMap(usedBy) ?? []) visit(other);
  };
  visit(table);
  return needed;
};
var tableNames = ({ tables, inputs }, own2) => (id, of = "table") => {
  const named2 = () => {
    if (of === "input") return inputs.find((input) => input.id === id);
    if (id === "") return own2;
    return tables.find((table) => table.id === id);
  };
  return named2()?.name ?? id;
};

// core/src/engine/lineage.ts
var columnLineageOf = (step, input, output) => {
  const carries = kindOf2(step).columnLineage;
  if (carries) return carries(paramsOf(step), input, output);
  const names3 = new Set(input.map((field) => field.name));
  return Object.fromEntries(output.flatMap(({ name: name2 }) => names3.has(name2) ? [[name2, name2]] : []));
};

// core/src/engine/pairing.ts
var orderedWindow = (index, rows2, from, count3) => {
  const pairs = { before: int32s(count3), after: int32s(count3) };
  let next = 0;
  let at = 0;
  for (let place = 0; place < from + count3; place++) {
    const row = at < index.length ? index[at] : rows2;
    const left = row > next || at === index.length;
    if (place >= from) {
      pairs.before[place - from] = left || row === next ? next : -1;
      pairs.after[place - from] = left ? -1 : at;
    }
    if (left || row === next) next++;
    if (!left) at++;
  }
  return pairs;
};
var firsts = (index, rows2) => {
  const seen2 = bitmap(rows2);
  return index.map((row) => {
    if (row < 0 || isSet(seen2, row)) return -1;
    set(seen2, row);
    return row;
  });
};
var ofRowsAfter = (total, before) => ({
  total,
  window: (from, count3) => {
    const after = sliceRows(Math.max(0, Math.min(count3, total - from)), from);
    return { before: before(after, from), after };
  }
});
var pairingOf = (before, { result, table }) => {
  const origin = result?.lineage;
  if (!origin || origin.kind === "same") return ofRowsAfter(table.rowCount, (after) => after);
  if (origin.kind !== "index") return ofRowsAfter(table.rowCount, (after) => int32s(after.length).fill(-1));
  const { index } = origin;
  const { ordered: ordered2, different } = rowOrder(index);
  if (!ordered2) {
    const rows2 = origin.kept === index.length ? index : firsts(index, before.rowCount);
    return ofRowsAfter(index.length, (after, from) => rows2.subarray(from, from + after.length));
  }
  const total = before.rowCount + index.length - different;
  return {
    total,
    window: (from, count3) => orderedWindow(index, before.rowCount, from, Math.max(0, Math.min(count3, total - from)))
  };
};

// core/src/engine/diff-view.ts
var text2 = (table, column, row) => {
  const cell = table.cell(column, row);
  return cell === null ? null : textOfCell(table.schema[column]?.type ?? "text", cell);
};
var plain2 = (table, from, count3) => {
  const end = Math.min(table.rowCount, from + count3);
  const types = table.schema.map(({ type }) => type);
  return {
    columns: table.schema.map(({ name: name2, type }) => ({ name: name2, type, state: "same" })),
    total: table.rowCount,
    rows: Array.from({ length: Math.max(0, end - from) }, (_, i) => ({
      row: from + i,
      state: "same",
      cells: types.map((type, c) => {
        const cell = table.cell(c, from + i);
        return cell === null ? null : textOfCell(type, cell);
      })
    }))
  };
};
var viewOfRows = (table, rows2, from, count3) => ({
  ...plain2(table, 0, 0),
  total: rows2.length,
  rows: [...rows2.subarray(from, from + count3)].map((row) => plain2(table, row, 1).rows[0])
});
var alignColumns = (before, step) => {
  const output = step.table.schema;
  const columnLineage = columnLineageOf(step.step, before.schema, output);
  const columns = output.map(({ name: name2, type }, to) => {
    const was = ownValue(columnLineage, name2);
    const from = was === void 0 ? -1 : before.positionOf(was);
    return {
      name: name2,
      type,
      state: from < 0 ? "added" : "same",
      ...was !== void 0 && was !== name2 ? { was } : {},
      from,
      to
    };
  });
  before.schema.forEach(({ name: name2, type }, from) => {
    if (columns.some((column) => column.from === from)) return;
    const left = columns.findIndex((column) => column.from === from - 1);
    const end = () => {
      if (from === 0) return 0;
      if (left < 0) return columns.length;
      return left + 1;
    };
    columns.splice(end(), 0, {
      name: name2,
      type,
      state: "removed",
      from,
      to: -1
    });
  });
  return {
    columns: columns.map(({ from: _from, to: _to, ...column }) => column),
    from: columns.map(({ from }) => from),
    to: columns.map(({ to }) => to)
  };
};
var sameCell = (a, b) => a === b;
var comparable3 = (before, after, { from, to }) => from.flatMap((f, c) => {
  const t = to[c];
  return f < 0 || t < 0 || before.sharesColumn(f, after, t) ? [] : [c];
});
var rowChanged = (before, after, { from, to }, columns, b, a) => columns.some((c) => !sameCell(before.cell(from[c], b), after.cell(to[c], a)));
var unreadableRows = (step) => new Set((step.result?.unreadable ?? []).flatMap(({ rows: rows2 }) => [...rows2]));
var matchPredicate = (only, { result }) => {
  const lineage = result?.lineage;
  if (lineage?.kind !== "index") return void 0;
  const { index, other, keepsUnmatchedOnly: anti = false } = lineage;
  const meets3 = (a) => (other?.[a] ?? -1) >= 0;
  if (only === "matched") return (_b, a) => anti ? a < 0 : a >= 0 && index[a] >= 0 && meets3(a);
  if (only === "unmatched") return (_b, a) => anti ? a >= 0 : a < 0 || index[a] >= 0 && !meets3(a);
  if (only === "unmatched-there") return (_b, a) => a >= 0 && index[a] < 0;
  if (only === "multiplied") return (b, a) => b < 0 && a >= 0 && index[a] >= 0;
  return void 0;
};
var rowPredicate = (only, before, step, layout7) => {
  if (only === "left") return (_b, a) => a < 0;
  if (only === "added") return (b) => b < 0;
  const joined2 = matchPredicate(only, step);
  if (joined2) return joined2;
  const bad = unreadableRows(step);
  if (only === "unreadable") return (_b, a) => bad.has(a);
  const columns = comparable3(before, step.table, layout7);
  if (only === "values-changed")
    return (b, a) => a >= 0 && b >= 0 && rowChanged(before, step.table, layout7, columns, b, a);
  return (b, a) => a < 0 || b < 0 || bad.has(a) || rowChanged(before, step.table, layout7, columns, b, a);
};
var shownRows = (before, step, only, layout7, from, count3) => {
  const pairing = pairingOf(before, step);
  if (only === "all") return { total: pairing.total, pairs: pairing.window(from, count3) };
  const all = pairing.window(0, pairing.total);
  const kept2 = new IntList();
  const isShown = rowPredicate(only, before, step, layout7);
  for (let i = 0; i < pairing.total; i++) if (isShown(all.before[i], all.after[i])) kept2.push(i);
  const rows2 = kept2.done();
  const shown = rows2.subarray(from, from + count3);
  return {
    total: rows2.length,
    pairs: { before: shown.map((row) => all.before[row]), after: shown.map((row) => all.after[row]) }
  };
};
var changes = (before, step, only, from, count3) => {
  const { table: after } = step;
  const layout7 = alignColumns(before, step);
  const { total, pairs } = shownRows(before, step, only, layout7, from, count3);
  const bad = step.result?.unreadable ?? [];
  const badRows = bad.map(({ rows: list3 }) => new Set(list3));
  const columns = new Set(comparable3(before, after, layout7));
  const view = (i) => {
    const b = pairs.before[i];
    const a = pairs.after[i];
    const old = {};
    const failed2 = [];
    const cells = layout7.columns.map((column, c) => {
      const f = layout7.from[c];
      const t = layout7.to[c];
      if (a < 0 || t < 0) return b < 0 || f < 0 ? null : text2(before, f, b);
      const now = text2(after, t, a);
      if (bad.some((one2, k) => one2.column === column.name && badRows[k]?.has(a))) failed2.push(c);
      if (b >= 0 && columns.has(c)) {
        const was = text2(before, f, b);
        if (was !== now || before.isNull(f, b) !== (now === null)) old[c] = was ?? "";
      }
      return now;
    });
    const rowState = () => {
      if (a < 0) return "removed";
      if (b < 0) return "added";
      return "same";
    };
    return {
      row: a < 0 ? b : a,
      state: rowState(),
      cells,
      ...Object.keys(old).length > 0 ? { old } : {},
      ...failed2.length > 0 ? { bad: failed2 } : {}
    };
  };
  return { columns: layout7.columns, total, rows: Array.from(pairs.before, (_, i) => view(i)) };
};
var diffView = (steps2, at, diffMode, only, from, count3) => {
  const step = steps2[at];
  const before = at > 0 ? steps2[at - 1].table : void 0;
  if (diffMode === "before" && before) return plain2(before, from, count3);
  if (only === "against") return viewOfRows(step.table, step.result?.check?.against ?? int32s(0), from, count3);
  if (diffMode === "after" || !before || !step.result) {
    const bad = step.result?.unreadable ?? [];
    const view = plain2(step.table, from, count3);
    if (only === "unreadable" && bad.length > 0) {
      const rows2 = [...new Set(bad.flatMap((one2) => [...one2.rows]))].sort((a, b) => a - b);
      return {
        ...view,
        total: rows2.length,
        rows: rows2.slice(from, from + count3).map((row) => {
          const here2 = bad.filter((one2) => one2.rows.includes(row));
          return {
            ...plain2(step.table, row, 1).rows[0],
            bad: here2.map(({ column }) => step.table.positionOf(column)),
            // of an opened file the texts of the first cells are known
            old: Object.fromEntries(
              here2.flatMap(({ column, rows: all, texts = [] }) => {
                const original = texts[all.indexOf(row)];
                return original === void 0 ? [] : [[step.table.positionOf(column), original]];
              })
            )
          };
        })
      };
    }
    return view;
  }
  return changes(before, step, only, from, count3);
};

// core/src/engine/plan.ts
var missingIn = (problem) => {
  if (problem.code === "missing-column") return problem.column;
  if (problem.code === "formula") return missingColumn(problem.problem);
  return void 0;
};
var ofAnyType = () => ["text", "integer", "decimal", "boolean", "date", "datetime", "time", "list"];
var checkStep = (step, input, open2, dynamicTypes, context) => {
  const problems = [];
  const output = kindOf2(step).output(paramsOf(step), input, {
    ...context,
    report: (problem, ...path) => problems.push({ ...problem, path })
  });
  if (open2 !== void 0 && problems.length > 0 && problems.every(({ code: code2 }) => code2 === "no-columns-chosen" || code2 === "no-columns-left"))
    return { input, output, problems: [] };
  if (problems.length > 0 && dynamicTypes.some((name2) => input.some((field) => field.name === name2)))
    for (const type of ["integer", "decimal", "boolean"]) {
      const tried = checkStep(
        step,
        input.map((field) => dynamicTypes.includes(field.name) ? { name: field.name, type } : field),
        open2,
        [],
        context
      );
      if (tried.problems.length === 0) return tried;
    }
  const believed = open2 === void 0 ? [] : [...new Set(problems.flatMap((problem) => missingIn(problem) ?? []))].filter(
    (name2) => !input.some((field) => field.name === name2)
  );
  if (open2 === void 0 || believed.length === 0) return { input, output, problems };
  const check3 = (types2) => checkStep(
    step,
    [...input, ...believed.map((name2, i) => ({ name: name2, type: types2[i] ?? "text" }))],
    open2,
    dynamicTypes,
    context
  );
  let types = believed.map((name2) => open2(name2)[0]);
  let best = check3(types);
  for (const [i, name2] of believed.entries())
    for (const type of open2(name2).slice(1)) {
      if (best.problems.length === 0) return best;
      const tried = check3(types.with(i, type));
      if (tried.problems.length >= best.problems.length) continue;
      best = tried;
      types = types.with(i, type);
    }
  return best;
};
var TablePlanner = class {
  steps = [];
  schema = [];
  open;
  dynamicTypes = [];
  stopped = false;
  context;
  others;
  constructor(recipe2, schemas, table, others) {
    this.others = others;
    this.context = {
      parameters: parameterTypes(recipe2),
      inputColumns: (input) => ownValue(schemas, input),
      tableColumns: (id) => others.get(id)?.output ?? [],
      tableUnsure: (id) => others.get(id)?.unsure ?? false,
      names: tableNames(recipe2, table),
      own: table.id
    };
  }
  next(step) {
    const planned = this.plan(step);
    this.steps.push(planned);
    return planned;
  }
  plan(step) {
    const { schema } = this;
    if (step.off || this.stopped)
      return { step, state: step.off ? "off" : "waiting", input: schema, output: schema, problems: [] };
    const used2 = usedTables(step);
    if (used2.some((id) => this.others.get(id)?.output === void 0)) {
      this.stopped = true;
      return { step, state: "waiting", input: schema, output: schema, problems: [] };
    }
    const open2 = this.open ?? (used2.some((id) => this.others.get(id)?.unsure) ? ofAnyType : void 0);
    const { input, output, problems: found2 } = checkStep(step, schema, open2, this.dynamicTypes, this.context);
    const problems = output.length > maxColumns ? [{ code: "too-many-columns", columns: output.length, most: maxColumns, path: [] }] : found2;
    if (problems.length > 0) {
      this.stopped = true;
      return { step, state: "broken", input, output: input, problems };
    }
    this.schema = output;
    this.open = kindOf2(step).dynamicColumns?.(paramsOf(step), input) ?? open2;
    this.dynamicTypes = [...this.dynamicTypes, ...kindOf2(step).dynamicTypes?.(paramsOf(step)) ?? []];
    return { step, state: "fine", input, output, problems };
  }
  /** The schema that came out of the step reported last. */
  observe(schema) {
    this.schema = schema;
    this.open = void 0;
    this.dynamicTypes = [];
    const last = this.steps.at(-1);
    if (last) this.steps[this.steps.length - 1] = { ...last, output: schema };
  }
  /** The data was refused at the step reported last. */
  refuse(sentence3) {
    this.stopped = true;
    const last = this.steps.at(-1);
    if (last)
      this.steps[this.steps.length - 1] = {
        ...last,
        state: "broken",
        output: last.input,
        problems: [{ code: "refused-data", sentence: sentence3, path: [] }]
      };
  }
  /** Whether the schema holds columns that are only believed, or lacks some. */
  get unsure() {
    return this.open !== void 0 || this.dynamicTypes.length > 0;
  }
  get output() {
    return this.stopped ? void 0 : this.schema;
  }
};

// core/src/engine/statistics.ts
var keptRows = ({ lineage }, rowsIn, rowsOut) => {
  if (lineage.kind === "same") return rowsIn;
  if (lineage.kind === "source") return 0;
  if (lineage.kind === "groups") return Math.min(rowsIn, rowsOut);
  return lineage.kept ?? differentRows(lineage.index, rowsIn);
};
var differentRows = (index, of) => {
  const { ordered: ordered2, different } = rowOrder(index);
  if (ordered2) return different;
  const seen2 = uint8s(of);
  markRows(index, seen2);
  return countMarks(seen2);
};
var markRows = (index, seen2) => {
  const n = index.length;
  for (let i = 0; i < n; i++) if (index[i] >= 0) seen2[index[i]] = 1;
};
var countMarks = (seen2) => {
  const n = seen2.length;
  let count3 = 0;
  for (let row = 0; row < n; row++) count3 += seen2[row];
  return count3;
};
var statisticsFor = (step, rowsIn, input, result, names3) => {
  const output = result.table.schema;
  const columnLineage = columnLineageOf(step, input, output);
  const used2 = new Set(Object.values(columnLineage));
  const rowsOut = result.table.rowCount;
  const kept2 = keptRows(result, rowsIn, rowsOut);
  const left = rowsIn - kept2;
  return {
    id: step.id,
    kind: step.kind,
    sentence: sentenceText(step, names3),
    rowsIn,
    rowsOut,
    rowsLeft: left,
    rowsCame: rowsOut - kept2,
    columnsAdded: output.flatMap(({ name: name2 }) => ownValue(columnLineage, name2) === void 0 ? [name2] : []),
    columnsDropped: input.flatMap(({ name: name2 }) => used2.has(name2) ? [] : [name2]),
    columnsRenamed: Object.fromEntries(
      Object.entries(columnLineage).flatMap(([next, old]) => next === old ? [] : [[old, next]])
    ),
    cellsChanged: result.cellsChanged ?? 0,
    unreadable: Object.fromEntries((result.unreadable ?? []).map(({ column, rows: rows2 }) => [column, rows2.length])),
    notes: result.notes ?? {},
    ...result.check ? {
      check: {
        passed: result.check.passed,
        stop: result.check.stop,
        say: result.check.say,
        figure: result.check.figure
      }
    } : {}
  };
};

// core/src/engine/step-cache.ts
var BufferLedger = class {
  uses = /* @__PURE__ */ new Map();
  total = 0;
  /** Bytes of all buffers that are held. */
  get bytes() {
    return this.total;
  }
  /** Counts the distinct buffers of one holder and returns what `release` takes. */
  hold(buffers) {
    const held = new Map(buffers);
    for (const [buffer, bytes] of held) {
      const known3 = this.uses.get(buffer);
      if (known3) known3.holders++;
      else {
        this.uses.set(buffer, { bytes, holders: 1 });
        this.total += bytes;
      }
    }
    return [...held.keys()];
  }
  release(buffers) {
    for (const buffer of buffers) {
      const known3 = this.uses.get(buffer);
      if (!known3 || --known3.holders > 0) continue;
      this.uses.delete(buffer);
      this.total -= known3.bytes;
    }
  }
};
var buffersOf = ({ table, lineage }) => {
  const { index, other } = lineage.kind === "index" ? lineage : {};
  const rows2 = [index, other].flatMap((one2) => one2 ? [[one2.buffer, one2.byteLength]] : []);
  return [...table.buffers, ...rows2, ...lineage.kind === "groups" ? buffersOfGroups(lineage.groups) : []];
};
var leastOf2 = (entries, spared) => {
  let least2;
  for (const [key, { priority }] of entries)
    if (key !== spared && (!least2 || priority < least2.priority)) least2 = { key, priority };
  return least2;
};
var mostKeyText = 32 << 20;
var StepCache = class {
  kept = /* @__PURE__ */ new Map();
  drafts = /* @__PURE__ */ new Map();
  keys = /* @__PURE__ */ new Map();
  /** The priority of what left last: what is used now is worth its cost more than that. */
  floor = 0;
  keyText = 0;
  nextKey = 0;
  maxBytes;
  ledger;
  constructor(maxBytes = 15e8, ledger = new BufferLedger()) {
    this.maxBytes = maxBytes;
    this.ledger = ledger;
  }
  /** `draft`: whether the step, or one before it, is not part of the story yet. A draft that was kept counts as kept from then on. */
  get(key, draft = false) {
    const entry = this.kept.get(key) ?? this.drafts.get(key);
    if (!entry) return void 0;
    const stays = this.kept.delete(key) || !draft;
    this.drafts.delete(key);
    entry.priority = this.floor + entry.cost;
    this.place(key, entry, !stays);
    this.ledger.release(entry.held);
    entry.held = this.ledger.hold(buffersOf(entry.result));
    return entry;
  }
  /** `cost`: how long the step took, in milliseconds. */
  set(key, { result, statistics }, draft = false, cost = 0) {
    this.remove(key);
    const held = this.ledger.hold(buffersOf(result));
    const entry = { result, statistics, held, cost, priority: this.floor + cost };
    this.place(key, entry, draft);
    this.shrink(key);
    return entry;
  }
  /** Lets results go until the bound holds; `spared` stays. */
  shrink(spared) {
    for (const entries of [this.drafts, this.kept])
      while (this.ledger.bytes > this.maxBytes) {
        const least2 = leastOf2(entries, spared);
        if (!least2) break;
        this.floor = Math.max(this.floor, least2.priority);
        this.remove(least2.key);
      }
  }
  /** A short name for a long key. A text that was forgotten gets another name, never one that was given before. */
  shortKey(text3) {
    const known3 = this.keys.get(text3);
    const short = known3 ?? String(this.nextKey++);
    if (known3 !== void 0) this.keys.delete(text3);
    else this.keyText += text3.length;
    this.keys.set(text3, short);
    for (const old of this.keys.keys()) {
      if (this.keyText <= mostKeyText || old === text3) break;
      this.keys.delete(old);
      this.keyText -= old.length;
    }
    return short;
  }
  clear() {
    for (const key of [...this.drafts.keys(), ...this.kept.keys()]) this.remove(key);
  }
  get size() {
    return this.kept.size + this.drafts.size;
  }
  place(key, entry, draft) {
    ;
    (draft ? this.drafts : this.kept).set(key, entry);
  }
  remove(key) {
    const entry = this.kept.get(key) ?? this.drafts.get(key);
    if (!entry) return;
    this.kept.delete(key);
    this.drafts.delete(key);
    this.ledger.release(entry.held);
  }
};

// core/src/engine/run.ts
var RunStopped = class extends Error {
};
var momentFor = (step, now) => {
  const text3 = JSON.stringify(step);
  if (/\bNOW\s*\(/i.test(text3)) return now;
  return /\bTODAY\s*\(/i.test(text3) ? Math.floor(now / 864e5) : 0;
};
var usesParameter = (step) => /"parameter"|\$/.test(JSON.stringify(step));
var tooLongText = (error) => error instanceof RangeError && /string length/i.test(error.message) ? "A text longer than a cell can hold would be made. Shorten the texts before this." : void 0;
var Run = class {
  reported = 0;
  done = /* @__PURE__ */ new Map();
  cache;
  recipe;
  schemas;
  options;
  constructor(recipe2, options3) {
    this.recipe = recipe2;
    this.schemas = openedSchemas(recipe2, options3.sources);
    this.options = options3;
    this.cache = options3.cache ?? new StepCache(0);
  }
  contextOf(table) {
    const { sources, parameters, now } = this.options;
    const finished = (id) => {
      const other = this.done.get(id)?.ran.table;
      if (!other) throw new Error(`the table ${id} is not finished`);
      return other;
    };
    return {
      parameters,
      parameterTypes: parameterTypes(this.recipe),
      now,
      opened: (input, read2) => sources(input, read2),
      table: finished,
      names: tableNames(this.recipe, table),
      own: table.id
    };
  }
  keyOf(step, above, names3) {
    const { parameters, now, sources } = this.options;
    const params = paramsOf(step);
    const opened = openedBy(step);
    const source = opened ? sources(opened.input, opened.read).key : "";
    const used2 = usedTables(step);
    const others = used2.map((id) => [this.done.get(id)?.key, names3(id)]);
    const own2 = used2.length > 0 ? names3("") : "";
    return this.cache.shortKey(
      JSON.stringify([
        step.kind,
        params,
        above,
        source,
        others,
        own2,
        momentFor(step, now),
        usesParameter(step) ? parameters : 0
      ])
    );
  }
  /** Whether a step is a draft, or stands on a table that holds one. */
  isDraft(step) {
    return this.options.drafts?.includes(step.id) === true || usedTables(step).some((id) => this.done.get(id)?.draft === true);
  }
  step(step, before, above, context, draft) {
    const { cache: cache2, shouldStop } = this.options;
    const key = this.keyOf(step, above, context.names);
    const known3 = cache2?.get(key, draft);
    if (known3) return { entry: { ...known3, statistics: { ...known3.statistics, id: step.id } }, key };
    if (shouldStop?.()) throw new RunStopped();
    const began = performance.now();
    const result = kindOf2(step).run(paramsOf(step), before, context);
    const statistics = statisticsFor(step, before.rowCount, before.schema, result, context.names);
    const made3 = { result, statistics };
    return { entry: cache2?.set(key, made3, draft, performance.now() - began) ?? made3, key };
  }
  /** Data that a step refuses breaks it, with the reason. */
  attempt(step, before, above, context, planner, draft) {
    try {
      return this.step(step, before, above, context, draft);
    } catch (error) {
      const sentence3 = error instanceof DataRefused || error instanceof TooLarge ? error.message : tooLongText(error);
      if (sentence3 === void 0) throw error;
      planner.refuse(sentence3);
      return void 0;
    }
  }
  /** Steps are checked as they run, against what really came out of the one before; after `until` they are only checked. */
  table(table) {
    const planner = new TablePlanner(
      this.recipe,
      this.schemas,
      table,
      new Map([...this.done].map(([id, { planned: planned2 }]) => [id, planned2]))
    );
    const context = this.contextOf(table);
    let before = Table.of([], []);
    let above = "";
    let reached2 = false;
    let draft = false;
    const steps2 = [];
    const count3 = this.recipe.tables.reduce((sum, one2) => sum + one2.steps.length, 0);
    const { until } = this.options;
    for (const [i, step] of table.steps.entries()) {
      const { state } = planner.next(step);
      if (reached2) continue;
      draft ||= this.isDraft(step);
      const done = state === "fine" ? this.attempt(step, before, above, context, planner, draft) : void 0;
      if (done) {
        before = done.entry.result.table;
        above = done.key;
        planner.observe(before.schema);
        steps2.push({ step, state, table: before, result: done.entry.result, statistics: done.entry.statistics });
      } else
        steps2.push({
          step,
          state: planner.steps.at(-1)?.state ?? state,
          table: before,
          result: void 0,
          statistics: void 0
        });
      this.options.onStep?.(++this.reported, count3, step);
      reached2 = until?.table === table.id && until.step === step.id && i < table.steps.length - 1;
    }
    const ran = {
      id: table.id,
      name: table.name,
      steps: steps2,
      table: planner.stopped || reached2 ? void 0 : before
    };
    const planned = {
      id: table.id,
      name: table.name,
      steps: planner.steps,
      output: planner.output,
      unsure: planner.unsure
    };
    this.done.set(table.id, { ran, planned, key: above, draft });
    return { ran, planned };
  }
};
var openedSchemas = (recipe2, sources) => Object.fromEntries(
  openedInputs(recipe2).map(({ input, read: read2 }) => [input, sources(input, read2).table.schema])
);
var runRecipe = (recipe2, options3) => {
  const run = new Run(recipe2, options3);
  const wanted = options3.until ? tablesNeeded(recipe2, options3.until.table) : recipe2.tables.map(({ id }) => id);
  const done = new Map(
    inOrder2(recipe2).filter(({ id }) => wanted.includes(id)).map((table) => [table.id, run.table(table)])
  );
  const reported = recipe2.tables.flatMap(({ id }) => done.get(id) ?? []);
  return {
    plan: { inputs: recipe2.inputs, tables: reported.map(({ planned }) => planned) },
    tables: reported.map(({ ran }) => ran)
  };
};

// formats/src/problem.ts
var FileProblem = class extends Error {
};
var OpenQuote = class extends FileProblem {
};

// formats/src/csv/open-csv.ts
import Papa3 from "papaparse";

// formats/src/csv/decode.ts
import { isUtf8 as isUtf82 } from "node:buffer";
import { StringDecoder } from "node:string_decoder";
import iconv from "iconv-lite";

// formats/src/file-content.ts
import { constants, isUtf8 } from "node:buffer";

// formats/src/file-parts.ts
var windowBytes = 8 << 20;
var wholeCharacters = (bytes) => {
  let start = bytes.length - 1;
  while (start > 0 && start > bytes.length - 4 && (bytes[start] & 192) === 128) start--;
  const lead = bytes[start] ?? 0;
  if (lead < 192) return bytes.length;
  let needed = 2;
  if (lead >= 240) needed = 4;
  else if (lead >= 224) needed = 3;
  return start + needed > bytes.length ? start : bytes.length;
};

// formats/src/held-file.ts
import { closeSync, fstatSync, openSync } from "node:fs";
var closing = new FinalizationRegistry((file) => closeSync(file));

// formats/src/file-content.ts
var contentOf = (bytes) => ({
  size: bytes.length,
  part: (from, length) => bytes.subarray(from, from + length),
  all: () => bytes
});
var isUtf8Content = (content) => {
  for (let at = 0; at < content.size; ) {
    const part2 = content.part(at, windowBytes);
    const last = at + part2.length === content.size;
    const whole5 = last ? part2.length : wholeCharacters(part2);
    if (whole5 === 0 || !isUtf8(part2.subarray(0, whole5))) return false;
    at += whole5;
  }
  return true;
};

// formats/src/csv/decode.ts
var names2 = {
  utf8: "utf-8",
  "utf-8": "utf-8",
  "utf-16": "utf-16le",
  "utf-16le": "utf-16le",
  "utf-16be": "utf-16be",
  "windows-1252": "windows-1252",
  cp1252: "windows-1252",
  latin1: "windows-1252",
  "iso-8859-1": "windows-1252"
};
var byMark = (bytes) => {
  if (bytes[0] === 239 && bytes[1] === 187 && bytes[2] === 191) return { encoding: "utf-8", length: 3 };
  if (bytes[0] === 255 && bytes[1] === 254) return { encoding: "utf-16le", length: 2 };
  if (bytes[0] === 254 && bytes[1] === 255) return { encoding: "utf-16be", length: 2 };
  return void 0;
};
var byNuls = (bytes) => {
  const sample = bytes.subarray(0, 4096);
  const counts2 = [0, 0];
  sample.forEach((byte, i) => {
    if (byte === 0) counts2[i % 2] = (counts2[i % 2] ?? 0) + 1;
  });
  const half = sample.length / 2;
  if ((counts2[1] ?? 0) > half * 0.4 && counts2[0] === 0) return "utf-16le";
  if ((counts2[0] ?? 0) > half * 0.4 && counts2[1] === 0) return "utf-16be";
  return void 0;
};
var detectEncoding = (content) => {
  const start = content.part(0, 4096);
  return byMark(start)?.encoding ?? byNuls(start) ?? (isUtf8Content(content) ? "utf-8" : "windows-1252");
};
var firstBadByte = (bytes) => {
  let low = 0;
  let high = bytes.length;
  while (low < high) {
    const middle = low + high >> 1;
    const cut2 = bytes.subarray(0, middle + 1);
    if (isUtf82(cut2) || isUtf82(cut2.subarray(0, Math.max(0, cut2.length - 1))) || isUtf82(cut2.subarray(0, Math.max(0, cut2.length - 2))) || isUtf82(cut2.subarray(0, Math.max(0, cut2.length - 3))))
      low = middle + 1;
    else high = middle;
  }
  while (low > 0 && !isUtf82(bytes.subarray(0, low))) low--;
  return low;
};
var pieceSize = 4 << 20;
function* textPieces(bytes, name2, stated) {
  const mark = byMark(bytes);
  const encoding = mark?.encoding ?? (stated === void 0 ? detectEncoding(contentOf(bytes)) : ownValue(names2, stated.toLowerCase()));
  if (!encoding)
    throw new FileProblem(
      `${name2} is said to be written in ${stated}, which is not known here. Choose UTF-8, UTF-16 or Windows-1252.`
    );
  const plain4 = bytes.subarray(mark?.length ?? 0);
  const body = encoding === "utf-16be" && plain4.length % 2 === 0 ? Buffer.from(plain4).swap16() : plain4;
  if (encoding === "utf-8" && !isUtf82(body))
    throw new FileProblem(
      `${name2} is not written in UTF-8: byte ${firstBadByte(body) + 1} does not belong there. Choose another encoding, such as Windows-1252.`
    );
  if (encoding.startsWith("utf-16") && body.length % 2 === 1)
    throw new FileProblem(`${name2} is not written in UTF-16: it ends in half a character. Choose another encoding.`);
  const decoder = encoding === "windows-1252" ? void 0 : new StringDecoder(encoding === "utf-8" ? "utf8" : "utf16le");
  for (let at = 0; at < body.length; at += pieceSize) {
    const piece = body.subarray(at, at + pieceSize);
    const text3 = decoder ? decoder.write(piece) : iconv.decode(piece, "windows-1252");
    if (text3.includes("\0"))
      throw new FileProblem(
        `${name2} holds zero bytes, as no text file does. It may be a workbook or another format; open it as what it is.`
      );
    yield { text: text3, done: Math.min(body.length, at + pieceSize) / body.length };
  }
}

// formats/src/csv/sniff.ts
var sniffDelimiter = (text3, quote2) => {
  const mark = quote2.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
  const quotes = new RegExp(`${mark}[^${mark}]*${mark}`, "g");
  const lines3 = text3.split("\n", 60).filter((line) => line.replace(/\r$/, "") !== "").map((line) => line.replace(quotes, ""));
  let best = [0, 0, ","];
  for (const delimiter of [",", ";", "	", "|"]) {
    const counts2 = /* @__PURE__ */ new Map();
    for (const line of lines3) {
      const count4 = line.split(delimiter).length - 1;
      if (count4 > 0) counts2.set(count4, (counts2.get(count4) ?? 0) + 1);
    }
    const mode = Math.max(0, ...counts2.values());
    const count3 = Math.max(0, ...[...counts2].filter(([, times2]) => times2 === mode).map(([cells]) => cells));
    if (mode > best[0] || mode === best[0] && count3 > best[1]) best = [mode, count3, delimiter];
  }
  return best[2];
};

// formats/src/csv/parsed-rows.ts
import "papaparse";
var parsePiece = (parser, text3, ignoreLast) => parser.parse(text3, 0, ignoreLast);
var dropReturn = (rows2) => {
  for (const row of rows2) {
    const last = row.length - 1;
    const cell = row[last];
    if (cell.charCodeAt(cell.length - 1) === 13) row[last] = cell.slice(0, -1);
  }
};
var checkWidth = (rows2, name2) => {
  const at = rows2.findIndex((row) => row.length > maxColumns);
  if (at >= 0)
    throw new FileProblem(
      `${name2} has ${figure(rows2[at]?.length ?? 0)} columns in a row, more than the ${figure(maxColumns)} that can be opened. Choose another sign that parts the cells, or ask for the export with rows and columns the other way round.`
    );
};

// formats/src/csv/scan-csv.ts
import { StringDecoder as StringDecoder2 } from "node:string_decoder";
import { setTimeout as delay } from "node:timers/promises";
import Papa2 from "papaparse";

// formats/src/csv/segment-threads.ts
import { availableParallelism } from "node:os";
import { MessageChannel, receiveMessageOnPort, Worker } from "node:worker_threads";

// formats/src/csv/utf8-source.ts
import { isUtf8 as isUtf83 } from "node:buffer";

// formats/src/spans.ts
var spanDecoder = (from) => {
  const bytes = Buffer.from(from.buffer, from.byteOffset, from.byteLength);
  return (start, end) => {
    for (let i = start; i < end; i++) if (bytes[i] > 127) return bytes.toString("utf8", start, end);
    return bytes.toString("latin1", start, end);
  };
};

// formats/src/csv/utf8-source.ts
var NotPlain = class extends Error {
};
var Utf8Source = class {
  size;
  decoder = spanDecoder;
  content;
  window = Buffer.alloc(0);
  start = 0;
  checked = 0;
  ahead;
  /** `end`: where the bytes end for this source, within those of the file; `ahead`: how many are read at once. */
  constructor(content, end = content.size, ahead = windowBytes) {
    this.content = content;
    this.ahead = ahead;
    this.size = end;
  }
  bytesOf(text3) {
    return Buffer.from(text3);
  }
  /** @throws NotPlain where the bytes are not UTF-8, or hold a NUL. */
  block(from, length) {
    const end = Math.min(this.size, from + length);
    if (from < this.start || end > this.start + this.window.length) this.load(from, length);
    return this.window.subarray(from - this.start, end - this.start);
  }
  load(from, length) {
    this.start = from;
    this.window = this.content.part(from, Math.min(this.size - from, Math.max(this.ahead, length)));
    const fresh = this.window.subarray(Math.max(0, this.checked - from));
    const whole5 = from + this.window.length === this.size ? fresh.length : wholeCharacters(fresh);
    const text3 = fresh.subarray(0, whole5);
    if (!isUtf83(text3) || text3.includes(0)) throw new NotPlain();
    this.checked = from + this.window.length - fresh.length + whole5;
  }
};

// formats/src/csv/segment.ts
var SegmentProgress = class {
  shared;
  cells;
  constructor(shared2 = new SharedArrayBuffer(12)) {
    this.shared = shared2;
    this.cells = new Int32Array(shared2);
  }
  get stopped() {
    return Atomics.load(this.cells, 0) !== 0;
  }
  stop() {
    Atomics.store(this.cells, 0, 1);
  }
  get rows() {
    return Atomics.load(this.cells, 1);
  }
  /** The part that is read, from 0 to 1. */
  get share() {
    return Atomics.load(this.cells, 2) / 1e6;
  }
  note(rows2, share) {
    Atomics.store(this.cells, 1, rows2);
    Atomics.store(this.cells, 2, Math.floor(share * 1e6));
  }
};

// formats/src/csv/segment-threads.ts
var mostThreads = 3;
var script;
var smallest = Infinity;
var idle = [];
var made2 = 0;
var freeThreads = (bytes) => script === void 0 || bytes < smallest ? 0 : idle.length + Math.max(0, Math.min(mostThreads, availableParallelism() - 1) - made2);
var takeThread = () => {
  const known3 = idle.pop();
  if (known3) return known3;
  made2++;
  return new Worker(script);
};
function* columnsFrom(port, width) {
  for (let c = 0; c < width; c++) yield receiveMessageOnPort(port).message;
}
var readInThread = (request) => {
  const progress = new SegmentProgress();
  const { port1, port2 } = new MessageChannel();
  const worker = takeThread();
  worker.ref();
  const result = new Promise((resolve) => {
    const settle3 = (lost, segment) => {
      worker.off("message", answered).off("error", failed2).off("exit", failed2);
      if (lost) made2--;
      else idle.push(worker);
      worker.unref();
      resolve(segment);
    };
    const answered = (reply) => settle3(false, reply && { ...reply, columns: columnsFrom(port1, reply.width) });
    const failed2 = () => settle3(true, void 0);
    worker.on("message", answered).on("error", failed2).on("exit", failed2);
  });
  worker.postMessage({ request, shared: progress.shared, port: port2 }, [port2]);
  return { progress, result, close: () => port1.close() };
};

// formats/src/csv/scan-csv.ts
var firstPieces = [1 << 17, 1 << 20];
var smallestScanned = 2 << 20;
var headOf = (source, read2, quote2) => {
  for (const size of firstPieces) {
    const first2 = source.block(0, size);
    const mark = first2[0] === 239 && first2[1] === 187 && first2[2] === 191 ? 3 : 0;
    const head = new StringDecoder2("utf8").write(first2.subarray(mark));
    const delimiter = read2.delimiter ?? sniffDelimiter(head, quote2);
    if (delimiter.charCodeAt(0) > 127) return void 0;
    const parser = new Papa2.Parser({ delimiter, newline: "\n", quoteChar: quote2, escapeChar: quote2 });
    const { data: rows2, meta } = parsePiece(parser, head, true);
    if (rows2.length <= Math.max(1, ...headerRows(read2)) + (read2.skip ?? 0)) continue;
    dropReturn(rows2);
    return { rows: rows2, end: mark + Buffer.byteLength(head.slice(0, meta.cursor)), delimiter };
  }
  return void 0;
};
var longestLine = 1 << 16;
var ownPart = 1.1;
var placesOf = ({ size, descriptor, part: part2 }, from) => {
  const threads = descriptor === void 0 ? 0 : freeThreads(size);
  const places3 = Array.from({ length: threads }, (_, i) => {
    const about = Math.floor(from + (size - from) * (ownPart + i) / (ownPart + threads));
    const end = part2(about, longestLine).indexOf(10);
    return end < 0 ? [] : [about + end + 1];
  }).flat();
  return places3.filter((place, i) => place < size && place !== places3[i - 1]);
};
var waitMs = 20;
var FileScan = class {
  scan;
  builder;
  delimiter;
  quote;
  parts = [];
  constructor(scan, builder, delimiter, quote2) {
    this.scan = scan;
    this.builder = builder;
    this.delimiter = delimiter.charCodeAt(0);
    this.quote = quote2.charCodeAt(0);
  }
  /** Reads all rows from a byte on, or until a column turns out to be text early; false where a quote stands as it should not. */
  async rows(from) {
    this.beginParts(placesOf(this.scan.content, from));
    try {
      let at = await this.readUpTo(from, this.parts[0]?.from ?? this.scan.content.size);
      while (at !== void 0 && this.parts[0]?.from === at) at = await this.takePart(at);
      await this.endParts();
      const { size } = this.scan.content;
      return at === void 0 || at === size || await this.readUpTo(at, size) === size;
    } finally {
      await this.endParts();
    }
  }
  beginParts(places3) {
    const { scan, builder, delimiter, quote: quote2 } = this;
    const { content, read: read2 } = scan;
    const { descriptor, size } = content;
    const { start } = builder;
    if (descriptor === void 0 || !start) return;
    const request = { descriptor, size, read: read2, asText: [...scan.asText], start, delimiter, quote: quote2 };
    this.parts = places3.map((from, i) => {
      const end = places3[i + 1] ?? size;
      return { from, end, reading: readInThread({ ...request, from, end }) };
    });
  }
  /** Ends what other threads still read. */
  async endParts() {
    const ended = this.parts;
    this.parts = [];
    for (const { reading } of ended) reading.progress.stop();
    await Promise.all(ended.map(({ reading }) => reading.result));
    for (const { reading } of ended) reading.close();
  }
  /** Says how far all threads are, of which this one is at a byte. */
  async sayProgress(at) {
    const { scan, builder, parts: parts2 } = this;
    let bytes = at;
    let rows2 = builder.rowCount;
    for (const { from, end, reading } of parts2) {
      bytes += reading.progress.share * (end - from);
      rows2 += reading.progress.rows;
    }
    await scan.yieldControl(bytes / scan.content.size, rows2);
  }
  /** The byte at which the reading ended: `end`, or where a row with a quote out of place begins; undefined where it is no use to go on. */
  async readUpTo(from, end) {
    const { builder } = this;
    const { content, early } = this.scan;
    const rows2 = builder.scan(new Utf8Source(content, end), from, this.delimiter, this.quote);
    for (; ; ) {
      const { value, done } = rows2.next();
      if (done) return value;
      if (value < early * content.size && builder.surprises.length > 0) return void 0;
      await this.sayProgress(value);
    }
  }
  /** The rows of the first part, below all that there are; the byte at which they end, or `from` where they have to be read by this thread. */
  async takePart(from) {
    const { end, reading } = this.parts[0];
    const waiting = /* @__PURE__ */ Symbol("waiting");
    for (; ; ) {
      const segment = await Promise.race([reading.result, delay(waitMs, waiting)]);
      if (segment === waiting) {
        await this.sayProgress(from);
        continue;
      }
      if (!segment) await this.endParts();
      if (!segment) return from;
      this.builder.append(segment, new Utf8Source(this.scan.content));
      this.parts.shift();
      reading.close();
      return end;
    }
  }
};
var scanCsv = async (scan) => {
  const { content, name: name2, read: read2, asText } = scan;
  const quote2 = read2.quote ?? '"';
  if (content.size < smallestScanned || read2.footer || read2.range || quote2.charCodeAt(0) > 127) return void 0;
  if (read2.encoding !== void 0 && !/^utf-?8$/i.test(read2.encoding)) return void 0;
  try {
    const head = headOf(new Utf8Source(content, content.size, 0), read2, quote2);
    if (!head) return void 0;
    const { rows: rows2, end, delimiter } = head;
    const builder = new TableBuilder(read2, asText);
    checkWidth(rows2, name2);
    builder.expect(Math.ceil(rows2.length * content.size * 1.04 / end));
    builder.add(rows2);
    return await new FileScan(scan, builder, delimiter, quote2).rows(end) ? builder : void 0;
  } catch (error) {
    if (error instanceof NotPlain) return void 0;
    throw error;
  }
};

// formats/src/csv/open-csv.ts
var lineEnd = (text3) => text3.includes("\n") || !text3.includes("\r") ? "\n" : "\r";
var mostRow = 16 << 20;
function* csvRows(bytes, name2, read2, partial = false) {
  const quote2 = read2.quote ?? '"';
  let parser;
  let rest = "";
  let returns = false;
  let seen2 = 0;
  let pending = [];
  for (const { text: text3, done } of textPieces(bytes, name2, read2.encoding)) {
    const piece = rest + text3;
    const last = done === 1 && !partial;
    parser ??= new Papa3.Parser({
      delimiter: read2.delimiter ?? sniffDelimiter(piece, quote2),
      newline: lineEnd(piece),
      quoteChar: quote2,
      escapeChar: quote2
    });
    const { data, errors, meta } = parsePiece(parser, piece, !last);
    const open2 = last ? errors.find(({ code: code2 }) => code2 === "MissingQuotes") : void 0;
    if (open2)
      throw new OpenQuote(
        `${name2} opens a quote in row ${seen2 + (open2.row ?? 0) + 1} that is never closed. Close it in the file, or say that the file has no quotes.`
      );
    rest = last ? "" : piece.slice(meta.cursor);
    if (rest.length > mostRow)
      throw new FileProblem(
        `${name2}: row ${figure(seen2 + data.length + 1)} goes on for more than ${figure(mostRow)} characters. A quote may be opened there and never closed, or the rows are parted by another sign than line breaks. Mend the row, or say that the file has no quotes.`
      );
    returns ||= text3.includes("\r");
    if (returns) dropReturn(data);
    seen2 += data.length;
    if (last && data.length > 0 && data.at(-1)?.length === 1 && data.at(-1)?.[0] === "") data.pop();
    if (pending.length > 0) yield { rows: pending, done };
    pending = data;
    if (!last) {
      yield { rows: pending, done };
      pending = [];
    }
  }
  if (pending.length > 0) yield { rows: pending, done: 1 };
}
var earlyPart = 0.05;
var mostEarlyPasses = 3;
var openCsvFile = async (content, name2, read2, yieldControl, forced = /* @__PURE__ */ new Set()) => {
  const pass = async (asText2, early) => {
    const scanned = await scanCsv({ content, name: name2, read: read2, asText: asText2, early, yieldControl });
    if (scanned) return scanned;
    const builder = new TableBuilder(read2, asText2);
    for (const { rows: rows2, done } of csvRows(content.all(), name2, read2)) {
      checkWidth(rows2, name2);
      builder.add(rows2);
      await yieldControl(done, builder.rowCount);
    }
    return builder;
  };
  let asText = forced;
  for (let passes = 1; ; passes++) {
    const builder = await pass(asText, passes > mostEarlyPasses ? 0 : earlyPart);
    if (builder.surprises.length === 0) return builder.done();
    asText = /* @__PURE__ */ new Set([...asText, ...builder.surprises]);
  }
};

// formats/src/budget.ts
var sheetRows = 1048576;
var sheetColumns = 16384;
var cellCharacters = 32767;
var mostMerges = 1e4;
var cellsOfAnyFile = 6e6;
var cellsAByte = 4;
var CellBudget = class {
  left;
  name;
  constructor(name2, bytes) {
    this.name = name2;
    this.left = cellsOfAnyFile + bytes * cellsAByte;
  }
  spend(cells) {
    this.left -= cells;
    if (this.left < 0)
      throw new FileProblem(
        `${this.name} claims far more cells than a file of its size can hold, nearly all of them repeated or blank. Delete the empty rows and columns around the table, save it anew, and drop that.`
      );
  }
};
var claimed = (text3, otherwise, most, name2, what) => {
  if (text3 === void 0) return otherwise;
  const count3 = Number(text3);
  if (Number.isInteger(count3) && count3 >= 0 && count3 <= most) return count3;
  throw new FileProblem(
    `${name2} is a damaged workbook: it speaks of ${what} ${text3.slice(0, 20)}, and there are at most ${figure(most)}. Save it anew in the program it came from.`
  );
};

// formats/src/sheet/workbook.ts
var dayMs2 = 864e5;
var momentOf = (serial, shown, first2) => {
  const day = Math.floor(serial);
  const ms = Math.round((serial - day) * dayMs2);
  const clock2 = first2 === day1900 || shown === "time";
  if (clock2 && serial >= 0 && serial < 1 && ms < dayMs2) return { type: "time", value: ms };
  const days4 = first2 + day + (first2 === day1900 && serial > 0 && serial < 60 ? 1 : 0);
  if (serial < 0 || days4 > 2932896) return { error: String(serial) };
  return shown === "date" && ms === 0 ? { type: "date", value: days4 } : { type: "datetime", value: days4 * dayMs2 + ms };
};
var day1900 = -25569;
var day1904 = -24107;
var withoutValue = "(formula without a saved value)";

// formats/src/sheet/xml.ts
import { StringDecoder as StringDecoder3 } from "node:string_decoder";
import { SaxesParser } from "saxes";
var pieceSize2 = 1 << 20;
function* walkXml(bytes, file, { open: open2, close, text: text3 }) {
  const parser = new SaxesParser({ position: false });
  const local = (name2) => name2.slice(name2.indexOf(":") + 1);
  const broken = () => {
    throw new FileProblem(
      `${file} is a damaged workbook: a part of it breaks off or is garbled. Save it anew in the program it came from.`
    );
  };
  if (open2) parser.on("opentag", (tag2) => open2(local(tag2.name), tag2.attributes));
  if (close) parser.on("closetag", (tag2) => close(local(tag2.name)));
  if (text3) {
    parser.on("text", text3);
    parser.on("cdata", text3);
  }
  parser.on("error", broken);
  const decoder = new StringDecoder3("utf8");
  for (let at = 0; at < bytes.length; at += pieceSize2) {
    parser.write(
      decoder.write(Buffer.from(bytes.buffer, bytes.byteOffset + at, Math.min(pieceSize2, bytes.length - at)))
    );
    yield Math.min(1, (at + pieceSize2) / bytes.length);
  }
  try {
    parser.close();
  } catch {
    broken();
  }
}
var readXml = (bytes, file, handlers) => {
  if (bytes) for (const _ of walkXml(bytes, file, handlers)) void _;
};

// formats/src/sheet/ods.ts
var mostRepeats = 1e5;
var timeOf2 = (text3) => {
  const match = /^PT(\d+)H(\d+)M(\d+(?:\.\d+)?)S$/.exec(text3);
  if (!match) return text3;
  const ms = Math.round((Number(match[1]) * 3600 + Number(match[2]) * 60 + Number(match[3])) * 1e3);
  return ms < 864e5 ? { type: "time", value: ms } : ms / 864e5;
};
var dateOf = (text3) => {
  const days4 = maybeIsoDate(text3);
  if (days4 !== null) return { type: "date", value: days4 };
  const ms = maybeIsoDateTime(text3.replace(/(\.\d{3})\d+$/, "$1"));
  return ms === null ? text3 : { type: "datetime", value: ms };
};
var unsaved = (attributes) => attributes["table:formula"] !== void 0 && attributes["office:value-type"] === void 0;
var cellOf4 = (attributes, text3) => {
  switch (attributes["office:value-type"]) {
    case "float":
    case "percentage":
    case "currency":
      return Number(attributes["office:value"]);
    case "boolean":
      return attributes["office:boolean-value"] === "true";
    case "date":
      return dateOf(attributes["office:date-value"] ?? "");
    case "time":
      return timeOf2(attributes["office:time-value"] ?? "");
    default:
      if (text3 === "") return unsaved(attributes) ? { error: withoutValue } : null;
      if (/^(?:#[A-Z/0!?]+|Err:\d+)$/.test(text3) && attributes["table:formula"] !== void 0) return { error: text3 };
      return text3;
  }
};
var openOds = (parts2, file) => {
  const content = parts2((name2) => name2 === "content.xml")["content.xml"];
  if (!content)
    throw new FileProblem(`${file} is a zip, but no workbook is in it. Unfold it, and drop the files that it holds.`);
  const seen2 = /* @__PURE__ */ new Map();
  const walk = (sheet, row) => {
    let current;
    let here2 = false;
    let attributes = {};
    let depth = 0;
    let text3 = "";
    let paragraphs = 0;
    let inParagraph = 0;
    let nothing = 0;
    let cells = [];
    let rowRepeats = 1;
    let at = 0;
    let inNote = 0;
    const hidden = /* @__PURE__ */ new Set();
    const budget = new CellBudget(file, content.length);
    return walkXml(content, file, {
      // eslint-disable-next-line complexity -- handlers of one XML walk, which share the state of the row they are in
      open: (name2, given) => {
        if (name2 === "style" && given["style:family"] === "table") attributes = given;
        else if (name2 === "table-properties" && given["table:display"] === "false")
          hidden.add(attributes["style:name"] ?? "");
        else if (name2 === "table" && depth++ === 0) {
          current = given["table:name"] ?? "";
          here2 = sheet === current;
          at = 0;
          if (sheet === void 0)
            seen2.set(current, {
              info: { name: current, hidden: hidden.has(given["table:style-name"] ?? "") },
              merges: []
            });
        } else if (name2 === "table-row") {
          cells = [];
          nothing = 0;
          rowRepeats = claimed(given["table:number-rows-repeated"], 1, sheetRows, file, "repeated rows");
          at++;
        } else if (name2 === "table-cell" || name2 === "covered-table-cell") {
          attributes = given;
          text3 = "";
          paragraphs = 0;
          const down = Number(given["table:number-rows-spanned"] ?? 1);
          const across = Number(given["table:number-columns-spanned"] ?? 1);
          if (sheet === void 0 && (down > 1 || across > 1) && (seen2.get(current ?? "")?.merges.length ?? 0) < mostMerges)
            seen2.get(current ?? "")?.merges.push({
              top: at,
              left: cells.length + nothing + 1,
              bottom: at + down - 1,
              right: cells.length + nothing + across
            });
        } else if (name2 === "annotation") inNote++;
        else if (name2 === "p" && inNote === 0) {
          inParagraph++;
          if (paragraphs++ > 0) text3 += "\n";
        } else if (inNote === 0 && name2 === "s") {
          const blanks = claimed(given["text:c"], 1, cellCharacters, file, "repeated blanks");
          budget.spend(blanks);
          text3 += " ".repeat(blanks);
        } else if (inNote === 0 && name2 === "tab") text3 += "	";
        else if (inNote === 0 && name2 === "line-break") text3 += "\n";
      },
      // eslint-disable-next-line complexity -- handlers of one XML walk, which share the state of the row they are in
      close: (name2) => {
        if (name2 === "table") depth--;
        else if (name2 === "annotation") inNote--;
        else if (name2 === "p" && inNote === 0) inParagraph--;
        else if (name2 === "table-cell" || name2 === "covered-table-cell") {
          const cell = name2 === "covered-table-cell" ? null : cellOf4(attributes, text3);
          const repeats = claimed(
            attributes["table:number-columns-repeated"],
            1,
            sheetColumns,
            file,
            "repeated columns"
          );
          if (cell === null) nothing += repeats;
          else {
            budget.spend(nothing + repeats);
            if (cells.length + nothing + repeats > sheetColumns)
              throw new FileProblem(
                `${file} is a damaged workbook: a row of it has more than ${figure(sheetColumns)} columns. Save it anew in the program it came from.`
              );
            for (; nothing > 0; nothing--) cells.push(null);
            for (let i = 0; i < repeats; i++) cells.push(cell);
          }
        } else if (name2 === "table-row") {
          if (here2 && !(cells.length === 0 && rowRepeats > mostRepeats)) {
            budget.spend(Math.max(1, cells.length) * rowRepeats);
            for (let i = 0; i < rowRepeats; i++) row(cells);
          }
          at += rowRepeats - 1;
        }
      },
      text: (piece) => {
        if (inNote === 0 && inParagraph > 0) text3 += piece;
      }
    });
  };
  for (const _ of walk(void 0, () => void 0)) void _;
  return {
    sheets: [...seen2.values()].map(({ info }) => info),
    rows: walk,
    merges: (sheet) => seen2.get(sheet)?.merges ?? []
  };
};

// formats/src/sheet/number-format.ts
var builtIn = {
  14: "date",
  15: "date",
  16: "date",
  17: "date",
  18: "time",
  19: "time",
  20: "time",
  21: "time",
  22: "datetime",
  45: "time",
  47: "time"
};
var shownBy = (code2) => {
  const [first2 = ""] = code2.replace(/"[^"]*"|\\.|_.|\*./g, "").split(";");
  if (/\[[hms]+\]/i.test(first2)) return "number";
  const letters3 = first2.replace(/\[[^\]]*\]/g, "").toLowerCase();
  const clock2 = /[hs]/.test(letters3);
  const day = /[yd]/.test(letters3) || !clock2 && letters3.includes("m");
  if (day) {
    if (clock2) return "datetime";
    return "date";
  }
  if (clock2) return "time";
  return "number";
};
var shownById = (id, codes) => {
  const code2 = codes.get(id);
  return code2 === void 0 ? builtIn[id] ?? "number" : shownBy(code2);
};

// formats/src/sheet/xlsx.ts
var columnOf2 = (reference) => {
  let n = 0;
  for (let i = 0; i < reference.length; i++) {
    const code2 = reference.charCodeAt(i);
    if (code2 < 65 || code2 > 90) break;
    n = n * 26 + code2 - 64;
  }
  return n;
};
var mostSheets = 1e3;
var rowOf = (reference) => Number(/\d+$/.exec(reference)?.[0] ?? 0);
var unescaped = (text3) => text3.includes("_x") ? text3.replace(/_x([0-9A-Fa-f]{4})_/g, (_, hex2) => String.fromCharCode(parseInt(hex2, 16))) : text3;
var truth = (text3) => text3 === "1" || text3 === "true";
var relations = (parts2, file) => {
  const targets = /* @__PURE__ */ new Map();
  readXml(parts2["xl/_rels/workbook.xml.rels"], file, {
    open: (name2, { Id = "", Target = "" }) => name2 === "Relationship" && void targets.set(Id, Target.startsWith("/") ? Target.slice(1) : `xl/${Target}`)
  });
  return targets;
};
var sharedStrings = (bytes, file) => {
  const strings = [];
  let text3 = "";
  let inText = false;
  let phonetic = 0;
  readXml(bytes, file, {
    open: (name2) => {
      if (name2 === "si") text3 = "";
      else if (name2 === "rPh") phonetic++;
      else if (name2 === "t") inText = phonetic === 0;
    },
    close: (name2) => {
      if (name2 === "si") strings.push(unescaped(text3));
      else if (name2 === "rPh") phonetic--;
      else if (name2 === "t") inText = false;
    },
    text: (piece) => {
      if (inText) text3 += piece;
    }
  });
  return strings;
};
var styleShows = (bytes, file) => {
  const codes = /* @__PURE__ */ new Map();
  const shows = [];
  let inCells = false;
  readXml(bytes, file, {
    open: (name2, { numFmtId = "0", formatCode = "" }) => {
      if (name2 === "numFmt") codes.set(Number(numFmtId), formatCode);
      else if (name2 === "cellXfs") inCells = true;
      else if (name2 === "xf" && inCells) shows.push(shownById(Number(numFmtId), codes));
    },
    close: (name2) => {
      if (name2 === "cellXfs") inCells = false;
    }
  });
  return shows;
};
var openXlsx = (parts2, file) => {
  const book = parts2(
    (name2) => name2 === "xl/workbook.xml" || name2 === "xl/_rels/workbook.xml.rels" || name2 === "xl/styles.xml" || name2 === "xl/sharedStrings.xml"
  );
  if (!book["xl/workbook.xml"])
    throw new FileProblem(`${file} is a zip, but no workbook is in it. Unfold it, and drop the files that it holds.`);
  const targets = relations(book, file);
  const entries = [];
  let first2 = day1900;
  readXml(book["xl/workbook.xml"], file, {
    open: (name2, attributes) => {
      if (name2 === "workbookPr" && truth(attributes.date1904)) first2 = day1904;
      if (name2 !== "sheet") return;
      const part2 = targets.get(attributes["r:id"] ?? Object.entries(attributes).find(([key]) => key.endsWith(":id"))?.[1] ?? "") ?? "";
      if (entries.length >= mostSheets)
        throw new FileProblem(`${file} has more than ${figure(mostSheets)} sheets. Part it into several workbooks.`);
      if (/worksheets\//.test(part2))
        entries.push({ name: attributes.name ?? "", hidden: (attributes.state ?? "visible") !== "visible", part: part2 });
    }
  });
  const strings = sharedStrings(book["xl/sharedStrings.xml"], file);
  const shows = styleShows(book["xl/styles.xml"], file);
  const bytesOf2 = (sheet) => {
    const part2 = entries.find(({ name: name2 }) => name2 === sheet)?.part ?? "";
    return ownValue(
      parts2((name2) => name2 === part2),
      part2
    ) ?? new Uint8Array(0);
  };
  const cellOf6 = (type, style, value) => {
    if (value === "") return null;
    switch (type) {
      case "s":
        return strings[Number(value)] ?? null;
      case "str":
      case "inlineStr":
        return unescaped(value);
      case "b":
        return truth(value);
      case "e":
        return { error: value };
      case "d": {
        const ms = Date.parse(`${value.replace(/Z$/, "")}Z`);
        if (Number.isNaN(ms)) return value;
        if (value.length <= 10) return { type: "date", value: Math.floor(ms / 864e5) };
        return { type: "datetime", value: ms };
      }
      default: {
        const shown = shows[style] ?? "number";
        return shown === "number" ? Number(value) : momentOf(Number(value), shown, first2);
      }
    }
  };
  function* rows2(sheet, row) {
    let cells = [];
    let at = 0;
    let column = 0;
    let type = "n";
    let style = 0;
    let value = "";
    let collects = false;
    let computed = false;
    let kept2 = false;
    const bytes = bytesOf2(sheet);
    const budget = new CellBudget(file, bytes.length);
    yield* walkXml(bytes, file, {
      open: (name2, attributes) => {
        if (name2 === "row") {
          const next = Math.max(1, claimed(attributes.r, at + 1, sheetRows, file, "row"));
          budget.spend(Math.max(1, next - at));
          for (at++; at < next; at++) row([]);
          at = next;
          cells = [];
          column = 0;
        } else if (name2 === "c") {
          column = attributes.r === void 0 ? column + 1 : columnOf2(attributes.r);
          if (column < 1 || column > sheetColumns)
            throw new FileProblem(
              `${file} is a damaged workbook: it speaks of cell ${(attributes.r ?? "").slice(0, 20)}, and a sheet ends at column XFD. Save it anew in the program it came from.`
            );
          type = attributes.t ?? "n";
          style = Number(attributes.s ?? 0);
          value = "";
          computed = false;
          kept2 = false;
        } else if (name2 === "f") computed = true;
        else if (name2 === "v" || name2 === "t") {
          collects = true;
          kept2 = true;
        }
      },
      close: (name2) => {
        if (name2 === "v" || name2 === "t") collects = false;
        else if (name2 === "c") {
          budget.spend(Math.max(1, column - cells.length));
          while (cells.length < column - 1) cells.push(null);
          cells[column - 1] = computed && !kept2 ? { error: withoutValue } : cellOf6(type, style, value);
        } else if (name2 === "row") row(cells);
      },
      text: (piece) => {
        if (collects) value += piece;
      }
    });
  }
  const merges = (sheet) => {
    const found2 = [];
    readXml(bytesOf2(sheet), file, {
      open: (name2, { ref = "" }) => {
        if (name2 !== "mergeCell") return;
        const [a = "", b = a] = ref.split(":");
        if (found2.length < mostMerges)
          found2.push({ top: rowOf(a), left: columnOf2(a), bottom: rowOf(b), right: columnOf2(b) });
      }
    });
    return found2;
  };
  return { sheets: entries.map(({ name: name2, hidden }) => ({ name: name2, hidden })), rows: rows2, merges };
};

// formats/src/sheet/zip.ts
import { unzipSync } from "fflate";
var mostBytes = 2 ** 31 - 1;
var mostTimes = 250;
var plentyBytes = 64 << 20;
var zipParts = (bytes, name2) => (wanted) => {
  let total = 0;
  try {
    return unzipSync(bytes, {
      filter: (file) => {
        if (!wanted(file.name)) return false;
        total += file.originalSize;
        if (total > mostBytes || total > plentyBytes && total > bytes.length * mostTimes)
          throw new FileProblem(
            `${name2} would unfold to more than ${Math.round(total / 1e6).toLocaleString("en-GB")} MB, as no honest workbook of ${(bytes.length / 1e6).toFixed(1)} MB does. It was not opened.`
          );
        return true;
      }
    });
  } catch (error) {
    if (error instanceof FileProblem) throw error;
    throw new FileProblem(
      `${name2} is a damaged workbook: the zip that holds it cannot be unfolded. Save it anew in the program it came from, or take it again from where it came.`
    );
  }
};

// formats/src/format.ts
var begins = (bytes, signature2) => signature2.every((byte, i) => bytes[i] === byte);
var isZip = (bytes) => begins(bytes, [80, 75, 3, 4]);
var isCompound = (bytes) => begins(bytes, [208, 207, 17, 224, 161, 177, 26, 225]);
var isParquet = (bytes) => begins(bytes, [80, 65, 82, 49]);
var says = (bytes, text3) => bytes.includes(text3, 0, "utf16le");
var found = (content, name2) => {
  const bytes = content.part(0, 4096);
  if (isZip(bytes)) return bytes.subarray(0, 200).includes("opendocument.spreadsheet") ? "ods" : "xlsx";
  if (isParquet(bytes)) return "parquet";
  if (isCompound(bytes))
    throw new FileProblem(
      says(content.all(), "EncryptedPackage") ? `${name2} is locked with a password. Open it in the program it came from, save it without one, and drop that.` : `${name2} is a workbook of the old kind (.xls). Save it as .xlsx in the program it came from, and drop that.`
    );
  if (begins(bytes, [37, 80, 68, 70]))
    throw new FileProblem(
      `${name2} is a PDF, which holds pages, not a table. Ask for the export as a workbook or as CSV.`
    );
  if (begins(bytes, [31, 139]))
    throw new FileProblem(`${name2} is packed with gzip. Unpack it, and drop the file inside.`);
  const start = bytes.subarray(0, 400).toString("latin1").replace(/^\xef\xbb\xbf/, "").trimStart().toLowerCase();
  if (/^<!doctype html|^<html/.test(start))
    throw new FileProblem(
      `${name2} is a web page, whatever its name says. Open it in a browser, copy the table, and paste it here.`
    );
  return void 0;
};
var formatOfFile = (content, name2, read2) => {
  const real = found(content, name2);
  const message = read2.format;
  if (message !== void 0 && real !== message && (real !== void 0 || message !== "csv" && message !== "json"))
    throw new FileProblem(
      `${name2} is ${real ? formatInfo[real].words : "no workbook or Parquet file"}, and was to be opened as ${formatInfo[message].words}. Choose what it is, or another file.`
    );
  if (real) return real;
  const named2 = message ?? formatOf(read2, name2);
  if (named2 === "csv" || named2 === "json") return named2;
  throw new FileProblem(
    `${name2} is called ${formatInfo[named2].words}, but does not hold one. If it is text, give it the ending .csv.`
  );
};
var openWorkbook = (bytes, name2, format) => {
  const parts2 = zipParts(bytes, name2);
  return format === "xlsx" ? openXlsx(parts2, name2) : openOds(parts2, name2);
};

// formats/src/json/open-json.ts
var isObject = (value) => typeof value === "object" && value !== null && !Array.isArray(value);
var listsIn = (value, path = "", depth = 0) => {
  if (Array.isArray(value)) return [path];
  return isObject(value) && depth < 5 ? Object.entries(value).flatMap(([key, inner]) => listsIn(inner, path === "" ? key : `${path}.${key}`, depth + 1)) : [];
};
var offer = (value) => {
  const lists = listsIn(value).filter((path) => path !== "");
  return lists.length === 0 ? "It holds no list anywhere." : `Lists stand at ${lists.slice(0, 4).join(", ")}: give one of these as the path.`;
};
var mostDepth = 500;
var checkDepth2 = (text3, name2) => {
  let depth = 0;
  let quoted2 = false;
  for (let i = 0; i < text3.length; i++) {
    const sign2 = text3.charCodeAt(i);
    if (quoted2) {
      if (sign2 === 92) i++;
      else if (sign2 === 34) quoted2 = false;
    } else if (sign2 === 34) quoted2 = true;
    else if (sign2 === 91 || sign2 === 123) {
      if (++depth > mostDepth)
        throw new FileProblem(
          `${name2} nests lists and records more than ${mostDepth} deep. Ask for an export in which the table stands nearer to the top.`
        );
    } else if (sign2 === 93 || sign2 === 125) depth--;
  }
};
var longWhole = /"(?:[^"\\]|\\.)*"|-?\d{16,}(?![\d.eE])/g;
var exactWholes = (text3) => /\d{16}/.test(text3) ? text3.replace(
  longWhole,
  (found2) => found2.startsWith('"') || Number.isSafeInteger(Number(found2)) ? found2 : `"${found2}"`
) : text3;
var parseJson = (bytes, name2, encoding) => {
  const text3 = [...textPieces(bytes, name2, encoding)].map((piece) => piece.text).join("");
  checkDepth2(text3, name2);
  try {
    return JSON.parse(exactWholes(text3));
  } catch (error) {
    const at = Number(/position (\d+)/.exec(String(error))?.[1] ?? text3.length);
    throw new FileProblem(
      `${name2} is not JSON: line ${text3.slice(0, at).split("\n").length} is where it stops making sense. Take it again from where it came.`
    );
  }
};
var recordsAt = (document, path, name2) => {
  let value = document;
  let rest = path ?? "";
  while (rest !== "") {
    if (!isObject(value)) break;
    const keys = Object.keys(value).filter((key2) => rest === key2 || rest.startsWith(`${key2}.`));
    const key = keys.sort((a, b) => b.length - a.length)[0];
    if (key === void 0) throw new FileProblem(`${name2} has nothing at ${quotedPath(path)}. ${offer(document)}`);
    value = ownValue(value, key);
    rest = rest.slice(key.length + 1);
  }
  if (rest === "" && Array.isArray(value)) return value;
  throw new FileProblem(
    `${name2} has no list of records ${path === void 0 ? "at its top" : `at ${quotedPath(path)}`}. ${offer(document)}`
  );
};
var quotedPath = (path) => `\u201C${path ?? ""}\u201D`;
var listOf = (items2) => items2.every((item) => item === null || typeof item !== "object") ? { list: JSON.stringify(items2) } : JSON.stringify(items2);
var flatten = (record, into, prefix = "") => {
  for (const [key, value] of Object.entries(record)) {
    const name2 = prefix + key;
    if (isObject(value)) flatten(value, into, `${name2}.`);
    else into.set(name2, Array.isArray(value) ? listOf(value) : value);
  }
};
var checkRecord = (value, at, name2) => {
  if (!isObject(value))
    throw new FileProblem(
      `${name2}: entry ${at + 1} of the list is ${Array.isArray(value) ? "a list" : "a single value"}, not a record with named values. Only lists of records can be opened.`
    );
  return value;
};
var openJson = async (bytes, name2, read2, yieldControl) => {
  const records = recordsAt(parseJson(bytes, name2, read2.encoding), read2.path, name2);
  const names3 = [];
  const known3 = /* @__PURE__ */ new Map();
  const flat = [];
  for (const [i, value] of records.entries()) {
    const row = /* @__PURE__ */ new Map();
    flatten(checkRecord(value, i, name2), row);
    for (const key of row.keys()) if (!known3.has(key)) known3.set(key, names3.push(key) - 1);
    if (names3.length > maxColumns)
      throw new FileProblem(
        `${name2}: by record ${figure(i + 1)} there are more than ${figure(maxColumns)} different names, each of which would be a column. The names may be values: ask for an export in which they stand in a field of their own.`
      );
    flat.push(row);
    if ((i & 1023) === 0) await yieldControl(i / records.length * 0.5, i);
  }
  const { header: _header, skip: _skip, footer: _footer, range: _range, ...rest } = read2;
  const builder = new CellTableBuilder(rest, true);
  builder.add(names3);
  for (const [i, row] of flat.entries()) {
    builder.add(names3.map((key) => row.get(key) ?? null));
    if ((i & 1023) === 0) await yieldControl(0.5 + i / flat.length * 0.5, i);
  }
  return builder.done(true);
};

// formats/src/parquet/open-parquet.ts
import {
  parquetMetadataAsync,
  parquetReadObjects,
  parquetSchema
} from "hyparquet";
import { compressors as compressors2 } from "hyparquet-compressors";

// formats/src/parquet/page-headers.ts
var stop = 0;
var double = 7;
var binary = 8;
var list2 = 9;
var set2 = 10;
var map = 11;
var struct = 12;
var mostDepth2 = 12;
var CompactReader = class {
  at;
  bytes;
  constructor(bytes, at) {
    this.bytes = bytes;
    this.at = at;
  }
  byte() {
    const byte = this.bytes[this.at++];
    if (byte === void 0) throw new RangeError("a page header goes beyond the file");
    return byte;
  }
  varint() {
    let value = 0;
    for (let factor = 1; factor < 2 ** 50; factor *= 128) {
      const byte = this.byte();
      value += (byte & 127) * factor;
      if (byte < 128) return value;
    }
    throw new RangeError("a number of a page header is too long");
  }
  zigzag() {
    const value = this.varint();
    return value % 2 === 0 ? value / 2 : -(value + 1) / 2;
  }
  value(type, depth) {
    if (depth > mostDepth2) throw new RangeError("a page header nests too deeply");
    if (type === 1 || type === 2) return 2 - type;
    if (type === 3) return this.byte();
    if (type <= 6) return this.zigzag();
    if (type === double) this.at += 8;
    else if (type === binary) {
      const length = this.varint();
      this.at += length;
    } else if (type === struct) return this.fields(depth + 1);
    else if (type === list2 || type === set2) this.items(depth);
    else if (type === map) throw new RangeError("a page header holds a map");
    return void 0;
  }
  items(depth) {
    const head = this.byte();
    const count3 = head >> 4 === 15 ? this.varint() : head >> 4;
    if (count3 > this.bytes.length) throw new RangeError("a list of a page header is too long");
    for (let i = 0; i < count3; i++) this.value(head & 15, depth + 1);
  }
  fields(depth = 0) {
    const fields = /* @__PURE__ */ new Map();
    for (let id = 0; ; ) {
      const head = this.byte();
      const type = head & 15;
      if (type === stop) return fields;
      id = head >> 4 === 0 ? this.zigzag() : id + (head >> 4);
      fields.set(id, this.value(type, depth));
    }
  }
};
var numberAt = (fields, id) => {
  const value = fields?.get(id);
  return typeof value === "number" ? value : -1;
};
var structAt = (fields, id) => {
  const value = fields.get(id);
  return value instanceof Map ? value : void 0;
};
function* pageClaims(bytes, from, end) {
  for (let at = from; at < end - 1; ) {
    const reader3 = new CompactReader(bytes, at);
    const fields = reader3.fields();
    const first2 = structAt(fields, 5);
    const second = structAt(fields, 8);
    const data = first2 ?? second;
    const claim = {
      uncompressed: numberAt(fields, 2),
      compressed: numberAt(fields, 3),
      values: numberAt(data ?? structAt(fields, 7), 1),
      isData: data !== void 0,
      encoding: numberAt(data, first2 ? 2 : 4),
      levelBytes: first2 || !second ? void 0 : [numberAt(second, 6), numberAt(second, 5)],
      isCompressed: first2 !== void 0 || numberAt(second, 7) !== 0,
      at: reader3.at
    };
    if (claim.compressed < 0 || claim.uncompressed < 0 || claim.at + claim.compressed > end)
      throw new RangeError("a page has a size that it cannot have");
    yield claim;
    at = claim.at + claim.compressed;
  }
}

// formats/src/parquet/page-runs.ts
import { compressors } from "hyparquet-compressors";
var levelsOf = (root, path) => {
  let node = root;
  let repetition = 0;
  let definition = 0;
  for (const name2 of path) {
    node = node.children.find(({ element }) => element.name === name2);
    if (!node) return void 0;
    if (node.element.repetition_type === "REPEATED") repetition++;
    if (node.element.repetition_type !== "REQUIRED") definition++;
  }
  return { repetition, definition };
};
var widthOf2 = (level) => 32 - Math.clz32(level);
var runsFit = (bytes, from, end, width, values) => {
  let at = from;
  for (let seen2 = 0; seen2 < values && at < end; ) {
    let header2 = 0;
    for (let shift2 = 0; ; shift2 += 7) {
      const byte = bytes[at++];
      if (byte === void 0 || shift2 > 28) return false;
      header2 += (byte & 127) * 2 ** shift2;
      if (byte < 128) break;
    }
    const count3 = Math.floor(header2 / 2);
    if (header2 % 2 === 1 ? (count3 - 1) * 8 > values - seen2 : count3 > values - seen2) return false;
    seen2 += header2 % 2 === 1 ? count3 * 8 : count3;
    at += header2 % 2 === 1 ? count3 * width : Math.ceil(width / 8);
  }
  return true;
};
var plainDictionary = 2;
var runLength = 3;
var dictionary = 8;
var valuesFit = (bytes, from, { encoding, values }, type) => {
  if (encoding === runLength && type === "BOOLEAN") return runsFit(bytes, from + 4, bytes.length, 1, values);
  const byWidth = encoding === plainDictionary || encoding === dictionary || encoding === runLength;
  return !byWidth || runsFit(bytes, from + 1, bytes.length, bytes[from] ?? 0, values);
};
var unpacked2 = (bytes, codec, size) => codec === "UNCOMPRESSED" ? bytes : compressors[codec]?.(bytes, size) ?? bytes;
var pageRunsFit = (file, page, { codec, type }, levels2) => {
  const body = file.subarray(page.at, page.at + page.compressed);
  if (page.levelBytes) {
    const [repetition, definition] = page.levelBytes;
    const start = repetition + definition;
    if (repetition < 0 || definition < 0 || start > body.length) return false;
    if (levels2.repetition > 0 && !runsFit(body, 0, repetition, widthOf2(levels2.repetition), page.values)) return false;
    if (levels2.definition > 0 && !runsFit(body, repetition, start, widthOf2(levels2.definition), page.values))
      return false;
    const rest = body.subarray(start);
    return valuesFit(page.isCompressed ? unpacked2(rest, codec, page.uncompressed - start) : rest, 0, page, type);
  }
  const bytes = unpacked2(body, codec, page.uncompressed);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = 0;
  for (const level of [levels2.repetition, levels2.definition]) {
    if (level === 0) continue;
    if (at + 4 > bytes.length) return false;
    const end = at + 4 + view.getUint32(at, true);
    if (!runsFit(bytes, at + 4, Math.min(end, bytes.length), widthOf2(level), page.values)) return false;
    at = end;
  }
  return valuesFit(bytes, at, page, type);
};

// formats/src/parquet/open-parquet.ts
var dayMs3 = 864e5;
var asFile = (bytes) => ({
  byteLength: bytes.length,
  slice: (start, end) => new Uint8Array(bytes.subarray(start, end)).buffer
});
var exactWhole = (value) => Number.isSafeInteger(Number(value)) ? Number(value) : value.toString();
var plain3 = (_key, value) => {
  if (typeof value === "bigint") return exactWhole(value);
  if (value instanceof Date) return value.toISOString().replace(/Z$/, "");
  if (value instanceof Uint8Array) return Buffer.from(value).toString("utf8");
  return value;
};
var cellOf5 = (value, element) => {
  if (value === null || value === void 0) return null;
  if (typeof value === "string" || typeof value === "boolean") return value;
  if (typeof value === "number" || typeof value === "bigint") {
    const exact = typeof value === "bigint" ? exactWhole(value) : value;
    if (typeof exact === "string") return exact;
    const number3 = exact;
    const { logical_type: logical, converted_type: converted } = element ?? {};
    if (logical?.type === "TIME" || converted?.startsWith("TIME_")) {
      const chooseUnit = () => {
        if (logical?.type === "TIME") return logical.unit;
        if (converted === "TIME_MICROS") return "MICROS";
        return "MILLIS";
      };
      const unit = chooseUnit();
      const nanosecondsPerUnit = () => {
        if (unit === "NANOS") return 1e6;
        if (unit === "MICROS") return 1e3;
        return 1;
      };
      return { type: "time", value: Math.floor(number3 / nanosecondsPerUnit()) };
    }
    if (Number.isFinite(number3)) return number3;
    if (Number.isNaN(number3)) return null;
    return { error: String(number3) };
  }
  if (value instanceof Date)
    return element?.converted_type === "DATE" || element?.logical_type?.type === "DATE" ? { type: "date", value: Math.floor(value.getTime() / dayMs3) } : { type: "datetime", value: Math.floor(value.getTime()) };
  if (value instanceof Uint8Array) return Buffer.from(value).toString("utf8");
  const text3 = JSON.stringify(value, plain3);
  return Array.isArray(value) && value.every(
    (item) => item === null || item === void 0 || typeof item !== "object" || item instanceof Date || item instanceof Uint8Array
  ) ? { list: text3 } : text3;
};
var rowsAPiece2 = 2e4;
var cellsOfAnyFile2 = 5e7;
var cellsAByte2 = 200;
var mostSchemaDepth = 50;
var pageBytes = 1 << 30;
var pagesAreWhole = (file, from, meta, levels2) => {
  const values = Number(meta.num_values);
  const end = from + Number(meta.total_compressed_size);
  if (!levels2) return false;
  try {
    let held = 0;
    for (const page of pageClaims(file, from, end)) {
      if (page.values < 0 || page.uncompressed > pageBytes || page.values > Math.max(values, page.uncompressed))
        return false;
      if (page.isData && !pageRunsFit(file, page, meta, levels2)) return false;
      if (page.isData) held += page.values;
    }
    return held === values;
  } catch (error) {
    if (error instanceof Error) return false;
    throw error;
  }
};
var checkClaims = (metadata, file, name2) => {
  const { num_rows: rows2, row_groups: groups, schema } = metadata;
  const size = file.length;
  const damaged = (what) => {
    throw new FileProblem(`${name2} is a damaged Parquet file: its foot ${what}. Take it again from where it came.`);
  };
  const total = Number(rows2);
  const columns = schema.filter(({ num_children: children }) => !children).length;
  if (!Number.isSafeInteger(total) || total < 0 || groups.reduce((sum, group) => sum + Number(group.num_rows), 0) !== total)
    damaged("counts other rows than its groups have");
  if (total * Math.max(1, columns) > cellsOfAnyFile2 + size * cellsAByte2)
    damaged(
      `claims ${figure(total)} rows of ${figure(columns)} columns, which a file of ${figure(size)} bytes cannot hold`
    );
  if (schemaDepth(schema) > mostSchemaDepth) damaged("nests columns too deeply");
  if (columns > maxColumns) damaged(`names ${figure(columns)} columns`);
  const tree = treeOf(metadata) ?? damaged("has a schema that breaks off");
  for (const group of groups)
    for (const { meta_data: meta } of group.columns) {
      if (!meta) return damaged("lacks the place of a column");
      const from = Number(meta.dictionary_page_offset ?? meta.data_page_offset);
      const bytes = Number(meta.total_compressed_size);
      if (!(from >= 0 && bytes >= 0 && from + bytes <= size)) damaged("names places beyond its end");
      if (!(Number(meta.total_uncompressed_size) <= 1e9 + size * 20))
        damaged("claims pages of a size that it cannot hold");
      if (!pagesAreWhole(file, from, meta, levelsOf(tree, meta.path_in_schema))) damaged("does not fit its pages");
    }
};
var treeOf = (metadata) => {
  try {
    return parquetSchema(metadata);
  } catch {
    return void 0;
  }
};
var schemaDepth = (schema) => {
  const open2 = [];
  let deepest = 0;
  for (const { num_children: children = 0 } of schema) {
    while (open2.length > 0 && open2.at(-1) === 0) open2.pop();
    if (open2.length > 0) open2[open2.length - 1] = (open2.at(-1) ?? 0) - 1;
    if (children > 0) open2.push(children);
    deepest = Math.max(deepest, open2.length);
  }
  return deepest;
};
var openParquet = async (bytes, name2, read2, yieldControl) => {
  const file = asFile(bytes);
  let metadata;
  try {
    metadata = await parquetMetadataAsync(file);
  } catch {
    throw new FileProblem(
      `${name2} is a damaged Parquet file: its foot cannot be read. Take it again from where it came.`
    );
  }
  checkClaims(metadata, bytes, name2);
  const elements = new Map(metadata.schema.map((element) => [element.name, element]));
  const [root] = metadata.schema;
  const names3 = topLevel(metadata.schema, root?.num_children ?? 0);
  const { header: _header, skip: _skip, footer: _footer, range: _range, ...rest } = read2;
  const builder = new CellTableBuilder(rest);
  builder.add(names3);
  const total = Number(metadata.num_rows);
  for (let from = 0; from < total; from += rowsAPiece2) {
    let rows2;
    try {
      rows2 = await parquetReadObjects({
        file,
        metadata,
        compressors: compressors2,
        rowStart: from,
        rowEnd: Math.min(total, from + rowsAPiece2)
      });
    } catch (error) {
      throw new FileProblem(
        `${name2} cannot be read from row ${from + 1} on: ${error.message}. Take it again from where it came.`
      );
    }
    for (const row of rows2) builder.add(names3.map((key) => cellOf5(ownValue(row, key), elements.get(key))));
    await yieldControl((from + rows2.length) / total, from + rows2.length);
  }
  return builder.done(true);
};
var topLevel = (schema, count3) => {
  const names3 = [];
  let at = 1;
  const skip = () => {
    let children = schema[at++]?.num_children ?? 0;
    for (; children > 0 && at < schema.length; children--) skip();
  };
  for (let i = 0; i < count3 && at < schema.length; i++) {
    names3.push(schema[at]?.name ?? "");
    skip();
  }
  return names3;
};

// formats/src/open-input.ts
var named = (part2, ofInput) => {
  const known3 = { ...ofInput, ...part2.file.aliases };
  const { table, blank: blank2, blankAt, unreadable, notes } = part2.built;
  const names3 = storyNames(table.names, known3);
  const renamed3 = Object.fromEntries(
    table.names.flatMap((name2, i) => names3[i] === name2 ? [] : [[name2, names3[i]]])
  );
  if (Object.keys(renamed3).length === 0) return { ...part2, renamed: renamed3 };
  const to = (name2) => ownValue(renamed3, name2) ?? name2;
  return {
    ...part2,
    renamed: renamed3,
    built: {
      table: table.renamed(names3),
      notes,
      blank: new Set([...blank2].map(to)),
      blankAt,
      unreadable: unreadable.map((one2) => ({ ...one2, column: to(one2.column) }))
    }
  };
};
var together2 = (types, format) => {
  const all = typeTogether(types);
  return format === "csv" && all === "datetime" && types.includes("date") ? "text" : all;
};
var typesOf = (parts2, name2) => {
  const having = parts2.filter(({ built }) => built.table.positionOf(name2) >= 0);
  const filled2 = having.filter(({ built }) => !built.blank.has(name2));
  return (filled2.length > 0 ? filled2 : having).map(({ built }) => built.table.named(name2).type);
};
var sumNotes = (parts2) => {
  const notes = {};
  for (const { built } of parts2)
    for (const [key, n] of Object.entries(built.notes)) setOwnValue(notes, key, (ownValue(notes, key) ?? 0) + n);
  return notes;
};
var chosenSheets = (sheets, wanted) => {
  if (wanted === void 0 || wanted === "first") return sheets.filter(({ hidden }) => !hidden).slice(0, 1);
  if (!("like" in wanted)) return wanted.flatMap((name2) => sheets.filter((sheet) => sheet.name === name2));
  const like = wildcard(wanted.like);
  const unlike = wanted.unlike === void 0 ? void 0 : wildcard(wanted.unlike);
  return sheets.filter(({ name: name2 }) => like.test(name2) && !unlike?.test(name2));
};
var openSheet = async (book, sheet, read2, yieldControl) => {
  const builder = new CellTableBuilder(read2);
  for (const share of book.rows(sheet, (cells) => builder.add(cells))) await yieldControl(share, builder.rowCount);
  return builder.done();
};
var lookedRows = 200;
var otherSheet = (book, { name: name2, hidden }, file, read2) => {
  const builder = new CellTableBuilder(read2);
  let seen2 = 0;
  try {
    const rows2 = book.rows(name2, (cells) => {
      if (seen2++ < lookedRows) builder.add(cells);
    });
    while (seen2 < lookedRows && rows2.next().done !== true) ;
    const { table } = builder.done();
    return { file, sheet: name2, rows: table.rowCount, schema: table.schema, ...hidden ? { hidden } : {} };
  } catch {
    return { file, sheet: name2, rows: 0, schema: [], ...hidden ? { hidden } : {} };
  }
};
var openFile = async (file, read2, yieldControl) => {
  const format = formatOfFile(file.content, file.name, read2);
  if (format === "csv")
    return {
      parts: [{ file, format, built: await openCsvFile(file.content, file.name, read2, yieldControl) }],
      others: [],
      sheets: []
    };
  if (format === "json")
    return {
      parts: [{ file, format, built: await openJson(file.content.all(), file.name, read2, yieldControl) }],
      others: [],
      sheets: []
    };
  if (format === "parquet")
    return {
      parts: [{ file, format, built: await openParquet(file.content.all(), file.name, read2, yieldControl) }],
      others: [],
      sheets: []
    };
  const book = openWorkbook(file.content.all(), file.name, format);
  const chosen = chosenSheets(book.sheets, read2.sheets).filter(({ name: name2 }) => !file.withoutSheets?.includes(name2));
  const parts2 = [];
  for (const [i, { name: sheet, hidden }] of chosen.entries())
    parts2.push({
      file,
      sheet,
      ...hidden ? { hidden } : {},
      format,
      built: await openSheet(book, sheet, read2, (share, rows2) => yieldControl((i + share) / chosen.length, rows2))
    });
  return {
    parts: parts2,
    others: book.sheets.filter((sheet) => !chosen.includes(sheet)).map((sheet) => otherSheet(book, sheet, file.name, read2)),
    sheets: book.sheets.map(({ name: name2 }) => name2)
  };
};
var openFileOrSay = async (file, read2, yieldControl) => {
  try {
    return await openFile(file, read2, yieldControl);
  } catch (error) {
    throw error instanceof TooLarge ? new FileProblem(`${file.name} cannot be opened. ${error.message}`) : error;
  }
};
var settleText = async (parts2, names3, read2, known3) => {
  const mixed = new Set(names3.filter((name2) => together2(typesOf(parts2, name2), parts2[0]?.format ?? "csv") === "text"));
  const types = {
    ...typeof read2.types === "object" ? read2.types : {},
    ...Object.fromEntries([...mixed].map((name2) => [name2, { type: "text" }]))
  };
  return Promise.all(
    parts2.map(async (part2) => {
      const again = part2.format === "csv" && part2.built.table.schema.some(
        ({ name: name2, type }) => mixed.has(name2) && type !== "text" && !part2.built.blank.has(name2)
      );
      if (!again) return part2;
      const asText = /* @__PURE__ */ new Set([
        ...mixed,
        ...Object.keys(part2.renamed).filter((name2) => mixed.has(ownValue(part2.renamed, name2)))
      ]);
      return named(
        {
          ...part2,
          built: await openCsvFile(
            part2.file.content,
            part2.file.name,
            readWith({ ...read2, types }, part2.renamed),
            () => void 0,
            asText
          )
        },
        known3
      );
    })
  );
};
var withOrigin = (table, parts2, { file, sheet }) => {
  const noted = (of) => columnOf(
    "text",
    parts2.flatMap((part2) => Array.from({ length: part2.built.table.rowCount }, () => of(part2) ?? null))
  );
  const first2 = file ? table.with(
    table.names.length,
    file,
    noted((part2) => part2.file.name)
  ) : table;
  return sheet ? first2.with(
    first2.names.length,
    sheet,
    noted((part2) => part2.sheet)
  ) : first2;
};
var openInput = async (files, given, known3 = {}, yieldControl = () => void 0) => {
  const read2 = readWith(given, Object.assign({}, known3, ...files.map(({ aliases }) => aliases ?? {})));
  const all = [];
  const otherSheets = [];
  const seen2 = /* @__PURE__ */ new Set();
  for (const [i, file] of files.entries()) {
    const { parts: parts3, others, sheets } = await openFileOrSay(
      file,
      read2,
      (share, rows2) => yieldControl((i + share) / files.length, rows2)
    );
    all.push(...parts3.map((part2) => named(part2, known3)));
    otherSheets.push(...others.map((one2) => withStoryNames(one2, known3)));
    for (const sheet of sheets) seen2.add(sheet);
  }
  const names3 = [...new Set(all.flatMap(({ built }) => built.table.names))];
  const parts2 = await settleText(all, names3, read2, known3);
  const columns = names3.map((name2) => {
    const type = together2(typesOf(parts2, name2), parts2[0]?.format ?? "csv");
    return concat(
      type,
      parts2.map(
        ({ built: { table: table2, blank: blank2 } }) => table2.positionOf(name2) < 0 || blank2.has(name2) ? emptyColumn(type, table2.rowCount) : convert(table2.named(name2), { type }).column
      )
    );
  });
  const table = Table.of(
    names3,
    columns,
    parts2.reduce((sum, { built }) => sum + built.table.rowCount, 0)
  );
  return {
    table: read2.origin ? withOrigin(table, parts2, read2.origin) : table,
    notes: sumNotes(parts2),
    unreadable: stackUnreadable(parts2),
    files: files.map((file) => ({
      name: file.name,
      sha256: file.hash,
      rows: parts2.reduce((sum, part2) => sum + (part2.file === file ? part2.built.table.rowCount : 0), 0)
    })),
    otherSheets,
    parts: parts2.map((part2) => partSummary(part2, table)),
    missingSheets: Array.isArray(read2.sheets) && parts2.some(({ format }) => format === "xlsx" || format === "ods") ? read2.sheets.filter((name2) => !seen2.has(name2)) : [],
    renamed: Object.assign({}, ...parts2.map(({ renamed: renamed3 }) => renamed3))
  };
};
var partSummary = ({ file, sheet, hidden, built }, table) => ({
  file: file.name,
  ...sheet === void 0 ? {} : { sheet },
  ...hidden ? { hidden } : {},
  rows: built.table.rowCount,
  schema: built.table.names.map((name2) => ({ name: name2, type: table.named(name2).type })),
  lacks: table.names.filter((name2) => built.table.positionOf(name2) < 0)
});
var withStoryNames = (sheet, known3) => {
  const names3 = storyNames(
    sheet.schema.map(({ name: name2 }) => name2),
    known3
  );
  return { ...sheet, schema: sheet.schema.map((field, i) => ({ ...field, name: names3[i] ?? field.name })) };
};
var stackUnreadable = (parts2) => {
  const found2 = /* @__PURE__ */ new Map();
  let before = 0;
  for (const { built } of parts2) {
    for (const { column, rows: rows2, texts = [] } of built.unreadable) {
      const known3 = found2.get(column) ?? { rows: [], texts: [] };
      for (const row of rows2) known3.rows.push(row + before);
      known3.texts.push(...texts.slice(0, keptTexts - known3.texts.length));
      found2.set(column, known3);
    }
    before += built.table.rowCount;
  }
  return [...found2].map(([column, { rows: rows2, texts }]) => ({ column, rows: Int32Array.from(rows2), texts }));
};

// formats/src/write/parquet.ts
import { parquetWriteBuffer } from "hyparquet-writer";

// formats/src/write/xlsx.ts
import { strToU8, zipSync } from "fflate";

// formats/src/columns/write.ts
var padding = new Uint8Array(8);

// core/src/testing/rolling.ts
var rolling = (seed) => {
  let state = seed;
  return (n) => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) % n;
  };
};

// core/src/testing/index.ts
var functionRecipes = everyFunction.filter(({ examples }) => examples.length > 0).map(({ name: name2, examples }) => ({
  name: name2,
  file: "Row\n1\n",
  gives: `Row,${examples.map((_, i) => `E${i + 1}`).join(",")}
1,${examples.map(([, gives]) => /[",]|^ | $/.test(gives) ? `"${gives.replaceAll('"', '""')}"` : gives).join(",")}
`,
  recipe: {
    fabula: 1,
    name: name2,
    inputs: [{ id: "rows", name: "Rows", columns: [{ name: "Row", type: "integer" }] }],
    tables: [
      {
        id: "result",
        name: "Result",
        steps: [
          { id: "s0", kind: "open", input: "rows", read: { delimiter: ",", types: { Row: { type: "integer" } } } },
          ...examples.map(([formula], i) => ({ id: `s${i + 1}`, kind: "derive", as: `E${i + 1}`, formula }))
        ]
      }
    ]
  }
}));
var signatures = functions.map(({ name: name2, group, args: args2 }) => ({ name: name2, group, args: args2 }));

// tmp-prof/unp.ts
useCompiledKernels();
var clinics = ["Fernhollow", "Marlpit", "Oxbow", "Tarn Lane", "Wick Green", "Saltmarsh", "Hollin Bank", "Cold Ash"];
var species = ["Dog", "Cat", "Rabbit", "Ferret", "Parrot"];
var rows = 2e5;
var random = rolling(7);
var lines2 = ["Ref,Day,Clinic,Species,Patient,Minutes,Fee,Paid"];
for (let i = 0; i < rows; i++) lines2.push(`V-${i},2031-${String(1 + random(12)).padStart(2, "0")}-${String(1 + random(28)).padStart(2, "0")},${clinics[random(8)]},${species[random(5)]},Patient ${random(rows)},${5 + random(90)},${(random(2e4) / 100).toFixed(2)},${random(3) > 0}`);
var src = { ...await openInput([{ name: "v.csv", content: contentOf((() => {
  const b = Buffer.from(lines2.join("\n") + "\n");
  lines2.length = 0;
  return b;
})()), hash: "x" }], {}), key: "x" };
var cache = new StepCache();
var recipe = (person, draft) => ({ fabula: 1, name: "a", inputs: [{ id: "visits", name: "V", columns: [...src.table.schema] }], tables: [{ id: "visits", name: "V", steps: [{ id: "s1", kind: "open", input: "visits", read: {} }, { id: "s2", kind: "filter", where: { column: "Minutes", op: "greater", value: person % 5 } }, { id: "s3", kind: "derive", as: "Hours", formula: "Minutes / 60" }, { id: "s4", ...draft }] }] });
var drafts = { unpivot: (n) => ({ kind: "unpivot", name: `Figure ${n}`, groups: [{ columns: ["Minutes", "Fee"], value: "Value" }] }), filter: (n) => ({ kind: "filter", where: { column: "Fee", op: "greater", value: n % 180 } }) };
var times = [[], [], []];
for (let n = 0; n < 300; n++) {
  const t = performance.now();
  const r = runRecipe(recipe(n % 50, drafts[process.argv[2] ?? "unpivot"](n)), { sources: () => src, parameters: {}, now: 0, cache, drafts: ["s4"] });
  const t2 = performance.now();
  const steps2 = r.tables[0].steps;
  const v = diffView(steps2, 3, "changes", "all", 0, 100);
  const t3 = performance.now();
  JSON.stringify(v.rows);
  const t4 = performance.now();
  if (n > 50) {
    times[0].push(t2 - t);
    times[1].push(t3 - t2);
    times[2].push(t4 - t3);
  }
}
for (const v of times) {
  v.sort((a, b) => a - b);
  console.log("med", v[v.length >> 1].toFixed(2), "p95", v[Math.floor(v.length * 0.95)].toFixed(2));
}
