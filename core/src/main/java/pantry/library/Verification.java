package pantry.library;

import java.util.List;

/**
 * What a check of every sealed version found.
 *
 * @param versions how many were checked
 */
public record Verification(int versions, boolean ok, List<Problem> problems) {
    public Verification {
        problems = List.copyOf(problems);
    }
}
