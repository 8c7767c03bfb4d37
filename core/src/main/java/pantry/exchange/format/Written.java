package pantry.exchange.format;

import java.util.List;

/**
 * What came of writing a model to a file.
 *
 * @param left what the format cannot hold, what is written in another way, and what was not there: a line each
 */
public record Written(List<String> left) {
    public Written {
        left = List.copyOf(left);
    }
}
