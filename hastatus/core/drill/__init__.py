"""The drill language: solo and partner drills as documents, their words and their files."""
