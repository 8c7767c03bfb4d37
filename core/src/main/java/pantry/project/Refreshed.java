package pantry.project;

/**
 * What was done to bring the index of uses in line with files.
 *
 * @param files that are known now
 * @param read of these, how many were read
 * @param counted in how many the uses were counted
 */
public record Refreshed(int files, int read, int counted) {}
