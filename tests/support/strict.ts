// Two questions at once on one connection, and whatever else a package calls deprecated, is a fault of ours.
process.throwDeprecation = true;
