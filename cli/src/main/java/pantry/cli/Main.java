package pantry.cli;

import java.io.PrintStream;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.ServiceLoader;
import pantry.base.PantryException;
import pantry.base.Scratch;
import pantry.workbench.Workbench;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** Runs one command; the process's exit status is 0 when done, 1 when the work failed, 2 when called wrongly. */
@Command(
        name = "pantry",
        description = "Keeps a shared library of reusable 3D assets, and puts them into scenes.",
        mixinStandardHelpOptions = true,
        version = "pantry 0.1.0",
        synopsisSubcommandLabel = "COMMAND",
        footer = {
            "",
            "Every command takes --help. Lengths are metres, angles degrees, sizes bytes.",
            "Exit status: 0 done, 1 the work failed, 2 called wrongly."
        })
public final class Main implements Runnable {
    @CommandLine.Spec
    private CommandLine.Model.CommandSpec spec = CommandLine.Model.CommandSpec.create();

    private Main() {}

    public static void main(String[] arguments) {
        PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
        PrintStream err = new PrintStream(System.err, true, StandardCharsets.UTF_8);
        int status;
        ServiceLoader.load(CommandSource.class).forEach(source -> source.getReady(List.of(arguments)));
        Scratch.claim();
        try (Workbench workbench = Workbench.usual()) {
            status = commandLine(workbench, out, err, TerminalProgress.isWatched(), arguments)
                    .execute(arguments);
        } catch (PantryException e) {
            err.println("pantry: " + e.line());
            status = 2;
        }
        System.exit(status);
    }

    /** Runs one command and tells its exit status. */
    public static int run(Workbench workbench, PrintStream out, PrintStream err, String... arguments) {
        return commandLine(workbench, out, err).execute(arguments);
    }

    /** All commands, those of other modules too, ready to be run or to be asked what they take. */
    public static CommandLine commandLine(Workbench workbench, PrintStream out, PrintStream err) {
        return commandLine(workbench, out, err, false);
    }

    /** @param arguments to be run; where they name a command of another module, this module's commands are left out */
    private static CommandLine commandLine(
            Workbench workbench, PrintStream out, PrintStream err, boolean watched, String... arguments) {
        CommandLine line = new CommandLine(new Main());
        Output output = new Output(out, err, watched);
        List<CommandLine> others = ServiceLoader.load(CommandSource.class).stream()
                .flatMap(source -> source.get().commands().stream())
                .map(CommandLine::new)
                .toList();
        // Reading what sixty commands take costs more than the toolkit's start.
        boolean isOther = arguments.length > 0
                && others.stream().anyMatch(other -> other.getCommandName().equals(arguments[0]));
        if (!isOther) {
            own(workbench, output).forEach(line::addSubcommand);
        }
        others.forEach(line::addSubcommand);
        line.setOut(new PrintWriter(out, true));
        line.setErr(new PrintWriter(err, true));
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.setExecutionExceptionHandler((exception, failed, parsed) -> {
            tell(Problem.of(exception), failed, isJson(parsed), output);
            return 1;
        });
        line.setParameterExceptionHandler((exception, given) -> {
            tell(
                    Problem.of(exception),
                    exception.getCommandLine(),
                    List.of(given).contains("--json"),
                    output);
            return 2;
        });
        return line;
    }

    private static List<Object> own(Workbench workbench, Output output) {
        return List.of(
                new NewLibraryCommand(workbench, output),
                new ReceiveCommand(workbench, output),
                new FactsCommand(workbench, output),
                new FindCommand(workbench, output),
                new CardCommand(workbench, output),
                new TagCommand(workbench, output),
                new MoveCommand(workbench, output),
                new ShelfCommand(workbench, output),
                new PublishCommand(workbench, output),
                new PrefabCommand(workbench, output),
                new EditCopyCommand(workbench, output),
                new ReserveCommand(workbench, output),
                new ReleaseCommand(workbench, output),
                new StatusCommand.Ready(workbench, output),
                new StatusCommand.Retire(workbench, output),
                new StatusCommand.Draft(workbench, output),
                new HistoryCommand(workbench, output),
                new DiffCommand(workbench, output),
                new TrashCommand(workbench, output),
                new RestoreCommand(workbench, output),
                new VerifyCommand(workbench, output),
                new ReindexCommand(workbench, output),
                new UpgradeCommand(workbench, output),
                new ProjectCommand(workbench, output),
                new UsesCommand(workbench, output),
                new UsedByCommand(workbench, output),
                new OutdatedCommand(workbench, output),
                new UnusedCommand(workbench, output),
                new UpdateCommand.Update(workbench, output),
                new UpdateCommand.Pin(workbench, output),
                new UpdateCommand.Follow(workbench, output),
                new SwapCommand(workbench, output),
                new RelinkCommand(workbench, output),
                new StraysCommand(workbench, output),
                new MergeAssetsCommand(workbench, output),
                new WhatIfCommand(workbench, output),
                new CreditsCommand(workbench, output),
                new HandOverCommand(workbench, output),
                new LeftoversCommand(workbench, output),
                new ArchiveCommand(workbench, output),
                new MoveFileCommand(workbench, output),
                new ChangesCommand(workbench, output),
                new InspectCommand(workbench, output),
                new TidyCommand(workbench, output),
                new TwinsCommand(workbench, output),
                new ProxyCommand(workbench, output),
                new PlanCommand(workbench, output),
                new RenameCommand(workbench, output),
                new PivotCommand(workbench, output),
                new NewSceneCommand(workbench, output),
                new AppendCommand.Append(workbench, output),
                new ReferenceCommand(workbench, output),
                new ArrangeCommand.Instance(workbench, output),
                new AppendCommand.Merge(workbench, output),
                new ArrangeCommand.BreakOut(workbench, output),
                new ArrangeCommand.Group(workbench, output),
                new ArrangeCommand.PlaceMany(workbench, output),
                new ArrangeCommand.Replace(workbench, output),
                new ArrangeCommand.WriteBack(workbench, output),
                new ArrangeCommand.Section(workbench, output),
                new ChooseCommand.Hang(workbench, output),
                new ChooseCommand.Paste(workbench, output),
                new ChooseCommand.Drawer(workbench, output),
                new ChooseCommand.AlternateSets(workbench, output),
                new ChooseCommand.Focuses(workbench, output),
                new OverrideCommand(workbench, output),
                new ChooseCommand.Anchor(workbench, output),
                new ChooseCommand.Settle(workbench, output),
                new MotionCommand(workbench, output),
                new TreeCommand(workbench, output),
                new WeighCommand(workbench, output),
                new FlattenCommand(workbench, output),
                new PackCommand(workbench, output),
                new ExplainCommand(workbench, output),
                new ConvertCommand(workbench, output),
                new ExportCommand(workbench, output),
                new PoseCommand(workbench, output),
                new BakeCommand(workbench, output),
                new MixCommand(workbench, output),
                new PhysicsCommand(workbench, output),
                new RemakeCommand(workbench, output));
    }

    private static boolean isJson(CommandLine.ParseResult parsed) {
        return parsed.hasMatchedOption("--json") || parsed.hasSubcommand() && isJson(parsed.subcommand());
    }

    private static void tell(Problem problem, CommandLine command, boolean json, Output output) {
        if (json) {
            output.sayJson(problem);
        } else {
            output.say(command.getCommandSpec().qualifiedName() + ": " + problem.line());
        }
    }

    @Override
    public void run() {
        throw new CommandLine.ParameterException(spec.commandLine(), "Say which command to run");
    }
}
