"""How often one address may try to sign in."""

from flask_limiter import Limiter
from flask_limiter.util import get_remote_address

limiter = Limiter(get_remote_address)
SIGN_IN = "20 per minute"
