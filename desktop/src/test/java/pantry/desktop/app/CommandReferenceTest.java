package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.cli.Main;
import pantry.exchange.worker.WorkerLimits;
import pantry.workbench.Workbench;
import picocli.CommandLine;
import picocli.CommandLine.Model.ArgGroupSpec;
import picocli.CommandLine.Model.ArgSpec;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;

/**
 * Generates the reference of the commands from what they say of themselves. It stands here because the command that
 * opens the window comes with this module.
 */
@DisplayName("docs/commands.md")
class CommandReferenceTest {
    private static final Path DOCUMENT = Path.of("../docs/commands.md");
    private static final Path GENERATED = Path.of("target/commands.md");

    /** What every command takes, which the top of the document tells. */
    private static final Set<String> COMMON = Set.of("--help", "--json", "--allow-outside");

    private static final String HEAD = """
            # Commands

            `./pantry COMMAND …` runs one command; `./pantry COMMAND --help` prints what stands here of it. This page is
            generated from the commands themselves; a test compares it with them.

            Lengths are metres, angles degrees, sizes bytes. `L` is a library's folder, `ASSET` an asset's `Shelf/Name` or its
            id. Every command also takes `--json` (one JSON document instead of text) and `--allow-outside DIR` (a folder in
            which files may name others, besides their own folder, project and libraries; see
            [Reliability](reliability.md#what-a-file-may-name)).

            Exit status: 0 done; 1 the work failed, with one line that says what and where; 2 called wrongly. With `--json`, what went
            wrong is one JSON document on standard error, with `code` (`call`, `refused`, `cancelled` or `fault`), `file`, `place`,
            `message` and `hint`, those that there are none of being null. On a terminal, one line tells how far long work is.
            """;

    private static final Map<String, List<String>> GROUPS = new LinkedHashMap<>();

    static {
        GROUPS.put("Begin, and take in", List.of("demo", "open", "new-library", "receive", "facts"));
        GROUPS.put("Find and catalogue", List.of("find", "card", "tag", "shelf", "move"));
        GROUPS.put(
                "Versions",
                List.of(
                        "publish",
                        "mix",
                        "remake",
                        "physics",
                        "prefab",
                        "edit-copy",
                        "reserve",
                        "release",
                        "ready",
                        "draft",
                        "retire",
                        "history",
                        "diff"));
        GROUPS.put("Keep a library whole", List.of("trash", "restore", "verify", "reindex", "upgrade"));
        GROUPS.put("Inspect and clean", List.of("inspect", "tidy", "twins", "proxy", "plan", "rename", "pivot"));
        GROUPS.put("Bring into a scene", List.of("new-scene", "reference", "append", "merge", "paste", "instance"));
        GROUPS.put(
                "Arrange a scene",
                List.of(
                        "group",
                        "break-out",
                        "place",
                        "hang",
                        "anchor",
                        "override",
                        "settle",
                        "motion",
                        "drawer",
                        "alternates",
                        "focus",
                        "replace",
                        "write-back",
                        "section"));
        GROUPS.put(
                "Over all projects",
                List.of(
                        "project",
                        "uses",
                        "used-by",
                        "outdated",
                        "unused",
                        "archive",
                        "update",
                        "pin",
                        "follow",
                        "swap",
                        "relink",
                        "strays",
                        "merge-assets",
                        "leftovers",
                        "what-if",
                        "credits",
                        "hand-over",
                        "move-file",
                        "changes"));
        GROUPS.put(
                "Files and layers",
                List.of("tree", "weigh", "explain", "flatten", "pack", "convert", "export", "pose", "bake"));
    }

    @TempDir
    private Path folder;

    @Test
    @DisplayName("is what the commands say of themselves")
    void isCurrent() throws Exception {
        String generated;
        try (Workbench workbench =
                new Workbench("tester", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL)) {
            PrintStream nowhere = new PrintStream(OutputStream.nullOutputStream());
            generated = page(Main.commandLine(workbench, nowhere, nowhere));
        }
        Files.writeString(GENERATED, generated);
        assertThat(Files.readString(DOCUMENT))
                .as("copy desktop/target/commands.md to docs/commands.md")
                .isEqualTo(generated);
    }

    private static String page(CommandLine all) {
        assertThat(GROUPS.values().stream().flatMap(List::stream))
                .as("each command stands in one group")
                .containsExactlyInAnyOrderElementsOf(all.getSubcommands().keySet());
        StringBuilder page = new StringBuilder(HEAD);
        GROUPS.forEach((group, names) -> {
            page.append("\n## ").append(group).append('\n');
            names.forEach(name -> page.append(command(all.getSubcommands().get(name))));
        });
        return page.toString();
    }

    private static String command(CommandLine command) {
        CommandSpec spec = command.getCommandSpec();
        List<String> rows = new ArrayList<>();
        spec.positionalParameters().stream()
                .filter(parameter -> !parameter.hidden())
                .forEach(parameter -> rows.add(row(parameter.paramLabel(), parameter)));
        spec.options().stream()
                .filter(option -> !option.hidden() && !COMMON.contains(option.longestName()))
                .forEach(option -> rows.add(row(label(option), option)));
        String options = rows.isEmpty() ? "" : "\n| | |\n|---|---|\n" + String.join("", rows);
        return "\n### " + spec.name() + "\n\n" + text(spec.usageMessage().description()) + "\n\n```\npantry "
                + synopsis(spec) + "\n```\n" + options;
    }

    private static String synopsis(CommandSpec spec) {
        Stream<String> positional = spec.positionalParameters().stream()
                .filter(parameter -> !parameter.hidden())
                .map(parameter -> {
                    String many = parameter.arity().max() > 1 ? "…" : "";
                    return parameter.arity().min() > 0
                            ? parameter.paramLabel() + many
                            : "[" + parameter.paramLabel() + many + "]";
                });
        Stream<String> required = spec.options().stream()
                .filter(option -> option.required() && option.group() == null)
                .map(CommandReferenceTest::label);
        Stream<String> choices = spec.argGroups().stream().map(CommandReferenceTest::choice);
        boolean more = spec.options().stream()
                .anyMatch(option -> option.group() == null
                        && !option.required()
                        && !option.hidden()
                        && !COMMON.contains(option.longestName()));
        return Stream.of(
                        Stream.of(spec.name()),
                        positional,
                        required,
                        choices,
                        more ? Stream.of("[options]") : Stream.<String>of())
                .flatMap(each -> each)
                .collect(Collectors.joining(" "));
    }

    /** Options of which one is taken, or which come together. */
    private static String choice(ArgGroupSpec group) {
        Stream<String> parts = Stream.concat(
                group.options().stream()
                        .map(option ->
                                group.exclusive() || option.required() ? label(option) : "[" + label(option) + "]"),
                group.subgroups().stream().map(CommandReferenceTest::choice));
        String all = parts.collect(Collectors.joining(group.exclusive() ? " | " : " "));
        return group.multiplicity().min() > 0 ? "(" + all + ")" : "[" + all + "]";
    }

    private static String label(OptionSpec option) {
        return option.longestName() + (option.arity().max() > 0 ? " " + option.paramLabel() : "");
    }

    private static String row(String label, ArgSpec argument) {
        return "| `" + label.replace("|", "\\|") + "` | "
                + text(argument.description()).replace("|", "\\|") + " |\n";
    }

    private static String text(String... lines) {
        return Arrays.stream(lines)
                .map(line -> line.replace("%n", " ")
                        .replace("%%", "%")
                        .replace("<", "\\<")
                        .strip())
                .collect(Collectors.joining(" "));
    }
}
