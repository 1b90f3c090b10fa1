# What a step did to the rows of a frame: for each row the place of the one it was made of, move after move.
moves = []


def follow(rows):
    """To be called by what moves, repeats or leaves out rows."""
    moves.append(list(rows))
def followed(frame):
    """Rows chosen by a step, numbered anew."""
    follow(frame.index)
    return frame.reset_index(drop=True)
