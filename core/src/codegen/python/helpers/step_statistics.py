import sys


accounts = []
def account(step, frame):
    accounts.append((step, len(frame), len(frame.columns)))
def tell_accounts(sentences):
    if "--quiet" in sys.argv[1:]:
        return
    for step, rows, columns_ in accounts:
        print("%12s rows × %d columns  %s  %s" % (format(rows, ","), columns_, step, sentences[step]), file=sys.stderr)
