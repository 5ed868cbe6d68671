"""Single questions, each answered on one screen with its working: no job, no account."""
