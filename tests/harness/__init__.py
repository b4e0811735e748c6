"""What tests and benchmarks share: databases, clubs, coaches, browsers and scripted students."""
