// Carries the headers that the test programs read once.
