package pantry.usd.file;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Files that a pattern with {@code #} for digits stands for, such as {@code walk.###.usd}. */
final class NumberedFiles {
    private static final Pattern HASHES = Pattern.compile("#+");

    private NumberedFiles() {}

    /**
     * The files that are there, as paths like the pattern's own, sorted.
     *
     * @param folder that the pattern is relative to
     */
    static List<String> matching(Path folder, String pattern) {
        int slash = pattern.lastIndexOf('/');
        String before = pattern.substring(0, slash + 1);
        Pattern names = names(pattern.substring(slash + 1));
        try (Stream<Path> files = Files.list(folder.resolve(before))) {
            return files.map(file -> file.getFileName().toString())
                    .filter(name -> names.matcher(name).matches())
                    .sorted()
                    .map(name -> before + name)
                    .toList();
        } catch (IOException e) {
            return List.of();
        }
    }

    /**
     * The pattern that renamed files have.
     *
     * @param files that match {@code pattern}
     * @param renamed their new paths, in the same order
     * @return empty where there are none, or where they have no pattern with the same numbers
     */
    static Optional<String> pattern(String pattern, List<String> files, List<String> renamed) {
        if (files.isEmpty()) {
            return Optional.empty();
        }
        Pattern names = names(nameOf(pattern));
        String candidate = renamed.getFirst();
        for (String number : numbers(names, files.getFirst())) {
            int at = candidate.indexOf(number, candidate.lastIndexOf('/') + 1);
            if (at < 0) {
                return Optional.empty();
            }
            candidate = candidate.substring(0, at)
                    + "#".repeat(number.length())
                    + candidate.substring(at + number.length());
        }
        for (int i = 0; i < files.size(); i++) {
            if (!filled(candidate, numbers(names, files.get(i))).equals(renamed.get(i))) {
                return Optional.empty();
            }
        }
        return Optional.of(candidate);
    }

    private static List<String> numbers(Pattern names, String file) {
        Matcher matcher = names.matcher(nameOf(file));
        List<String> numbers = new ArrayList<>();
        if (matcher.matches()) {
            for (int group = 1; group <= matcher.groupCount(); group++) {
                numbers.add(matcher.group(group));
            }
        }
        return numbers;
    }

    private static String filled(String pattern, List<String> numbers) {
        String filled = pattern;
        for (String number : numbers) {
            filled = HASHES.matcher(filled).replaceFirst(number);
        }
        return filled;
    }

    private static Pattern names(String name) {
        StringBuilder regex = new StringBuilder();
        Matcher hashes = HASHES.matcher(name);
        int end = 0;
        while (hashes.find()) {
            regex.append(Pattern.quote(name.substring(end, hashes.start())))
                    .append("(\\d{")
                    .append(hashes.end() - hashes.start())
                    .append(",})");
            end = hashes.end();
        }
        return Pattern.compile(regex + Pattern.quote(name.substring(end)));
    }

    private static String nameOf(String path) {
        return path.substring(path.lastIndexOf('/') + 1);
    }
}
