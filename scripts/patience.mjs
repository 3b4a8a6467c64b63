// Loaded before the specs: a busy machine is no failure, so waiting is given up late.
jasmine.DEFAULT_TIMEOUT_INTERVAL = 300_000;
