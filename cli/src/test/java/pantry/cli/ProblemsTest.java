package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Json;
import pantry.base.PantryException;

@DisplayName("What goes wrong")
class ProblemsTest {
    @TempDir
    private Path folder;

    private Shell shell;

    @BeforeEach
    void openShell() {
        shell = new Shell(folder);
    }

    @AfterEach
    void closeShell() {
        shell.close();
    }

    private Map<?, ?> said() {
        assertThat(shell.printed())
                .as("nothing that could be taken for a result")
                .isEmpty();
        return Json.read(shell.said(), "standard error", Map.class);
    }

    @Test
    @DisplayName("with a command's name is said in one line, with the likely name")
    void unknownCommand() {
        assertThat(shell.run("recieve", "x.glb")).isEqualTo(2);
        assertThat(shell.said().strip().lines())
                .singleElement()
                .asString()
                .contains("there is no command “recieve”")
                .contains("did you mean")
                .contains("receive");
    }

    @Test
    @DisplayName("with options is said in one line that tells where help is")
    void wrongOptions() {
        for (String call : new String[] {"find", "find --library", "find --library . --limit many", "find --nosuch"}) {
            assertThat(shell.run(call.split(" "))).as(call).isEqualTo(2);
            assertThat(shell.said().strip().lines())
                    .as(call)
                    .singleElement()
                    .asString()
                    .startsWith("pantry find: ")
                    .containsAnyOf("pantry find --help tells what it takes", "did you mean");
        }
        assertThat(shell.run()).isEqualTo(2);
        assertThat(shell.said()).contains("pantry --help");
    }

    @Test
    @DisplayName("with a search is not taken for a search for everything")
    void wrongSearch() {
        String library = folder.resolve("shelves").toString();
        shell.done("new-library", library, "--name", "Shelves");
        for (String query : new String[] {"height:abc", "nosuch:1", "changed:soon"}) {
            assertThat(shell.run("find", query, "--library", library)).as(query).isEqualTo(2);
            assertThat(shell.said()).contains(query.substring(0, query.indexOf(':')));
            assertThat(shell.printed()).isEmpty();
        }
        shell.done("find", "height:<2m", "--library", library);
    }

    @Test
    @DisplayName("is one JSON document on standard error where JSON was asked for")
    void json() throws IOException {
        assertThat(shell.run("find", "--json")).isEqualTo(2);
        assertThat(said().get("code")).isEqualTo("call");
        assertThat(said().get("message")).asString().contains("--library");
        assertThat(said().get("hint")).asString().contains("--help");
        Path bad = Files.writeString(folder.resolve("bad.usda"), "#usda 1.0\ndef Xform \"A\" {\n  double = \n}\n");
        assertThat(shell.run("tree", bad.toString(), "--json")).isEqualTo(1);
        assertThat(said().keySet()).hasToString("[code, file, place, message, hint]");
        assertThat(said().get("code")).isEqualTo("refused");
        assertThat(said().get("file")).asString().endsWith("bad.usda");
        assertThat(said().get("place")).asString().contains("line 3");
        assertThat(said().get("message")).asString().isNotBlank();
        assertThat(said().get("hint")).isNull();
    }

    @Test
    @DisplayName("by a fault of Pantry's own is told as that")
    void fault() {
        Problem fault = Problem.of(new IllegalStateException("no such state"));
        assertThat(fault.code()).isEqualTo(Problem.Code.FAULT);
        assertThat(fault.line()).isEqualTo("IllegalStateException: no such state; this is a fault of Pantry's own");
        Problem refused = Problem.of(new PantryException("a.usda", "line 3", "is cut off", null));
        assertThat(refused.line()).isEqualTo("a.usda: line 3: is cut off");
    }

    @Test
    @DisplayName("or comes out, is said below no rest of a line that told how far the work was")
    void progress() throws InterruptedException {
        ByteArrayOutputStream terminal = new ByteArrayOutputStream();
        PrintStream stream = new PrintStream(terminal, true, StandardCharsets.UTF_8);
        Output output = new Output(stream, stream, true);
        Thread.sleep(120);
        output.progress().step("mast.glb, reading " + "x".repeat(200), 0.25);
        output.progress().step("too soon after to be shown", 0.5);
        output.line("1 shelved");
        String shown = terminal.toString(StandardCharsets.UTF_8);
        assertThat(shown).contains(" 25 %  mast.glb").doesNotContain("too soon").endsWith("1 shelved\n");
        String[] lines = shown.split("\r");
        assertThat(lines[1]).hasSize(79).endsWith("…");
        assertThat(lines[2]).as("the line is taken away").isBlank();
        assertThat(new Output(stream, stream, false).progress()).isSameAs(pantry.base.Progress.NONE);
    }
}
