package pantry.prep.inspect;

import java.util.List;

/**
 * A finding in a few words, as it is kept, sent and listed.
 *
 * @param rule its id
 * @param severity as {@link Severity#word}
 * @param path of the prim
 * @param fixable whether there is a fix
 */
public record Brief(String id, String rule, String severity, String path, String message, boolean fixable) {
    static Brief of(Finding finding) {
        return new Brief(
                finding.id(),
                finding.rule().id(),
                finding.severity().word(),
                finding.path().toString(),
                finding.message(),
                finding.fixable());
    }

    static List<Brief> of(List<Finding> findings) {
        return findings.stream().map(Brief::of).toList();
    }
}
