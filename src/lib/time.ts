export * from '$core/shift/written-time';
