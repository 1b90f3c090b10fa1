from .fx_rounddown import fx_rounddown

fx_trunc = fx_rounddown
