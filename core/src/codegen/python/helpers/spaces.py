import re

SPACES = "".join(chr(c) for c in range(0x3001) if re.match(r"[\t-\r \u0085\u00a0\u1680\u2000-\u200a\u2028\u2029\u202f\u205f\u3000]", chr(c)))
