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
        Scratch.claim();
        try (Workbench workbench = Workbench.usual()) {
            status = commandLine(workbench, out, err, TerminalProgress.isWatched())
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

    private static CommandLine commandLine(Workbench workbench, PrintStream out, PrintStream err, boolean watched) {
        CommandLine line = new CommandLine(new Main());
        Output output = new Output(out, err, watched);
        line.addSubcommand(new NewLibraryCommand(workbench, output))
                .addSubcommand(new ReceiveCommand(workbench, output))
                .addSubcommand(new FactsCommand(workbench, output))
                .addSubcommand(new FindCommand(workbench, output))
                .addSubcommand(new CardCommand(workbench, output))
                .addSubcommand(new TagCommand(workbench, output))
                .addSubcommand(new MoveCommand(workbench, output))
                .addSubcommand(new ShelfCommand(workbench, output))
                .addSubcommand(new PublishCommand(workbench, output))
                .addSubcommand(new PrefabCommand(workbench, output))
                .addSubcommand(new EditCopyCommand(workbench, output))
                .addSubcommand(new ReserveCommand(workbench, output))
                .addSubcommand(new ReleaseCommand(workbench, output))
                .addSubcommand(new StatusCommand.Ready(workbench, output))
                .addSubcommand(new StatusCommand.Retire(workbench, output))
                .addSubcommand(new StatusCommand.Draft(workbench, output))
                .addSubcommand(new HistoryCommand(workbench, output))
                .addSubcommand(new DiffCommand(workbench, output))
                .addSubcommand(new TrashCommand(workbench, output))
                .addSubcommand(new RestoreCommand(workbench, output))
                .addSubcommand(new VerifyCommand(workbench, output))
                .addSubcommand(new ReindexCommand(workbench, output))
                .addSubcommand(new UpgradeCommand(workbench, output))
                .addSubcommand(new ProjectCommand(workbench, output))
                .addSubcommand(new UsesCommand(workbench, output))
                .addSubcommand(new UsedByCommand(workbench, output))
                .addSubcommand(new OutdatedCommand(workbench, output))
                .addSubcommand(new UnusedCommand(workbench, output))
                .addSubcommand(new UpdateCommand.Update(workbench, output))
                .addSubcommand(new UpdateCommand.Pin(workbench, output))
                .addSubcommand(new UpdateCommand.Follow(workbench, output))
                .addSubcommand(new SwapCommand(workbench, output))
                .addSubcommand(new RelinkCommand(workbench, output))
                .addSubcommand(new StraysCommand(workbench, output))
                .addSubcommand(new MergeAssetsCommand(workbench, output))
                .addSubcommand(new WhatIfCommand(workbench, output))
                .addSubcommand(new CreditsCommand(workbench, output))
                .addSubcommand(new HandOverCommand(workbench, output))
                .addSubcommand(new LeftoversCommand(workbench, output))
                .addSubcommand(new ArchiveCommand(workbench, output))
                .addSubcommand(new MoveFileCommand(workbench, output))
                .addSubcommand(new ChangesCommand(workbench, output))
                .addSubcommand(new InspectCommand(workbench, output))
                .addSubcommand(new TidyCommand(workbench, output))
                .addSubcommand(new TwinsCommand(workbench, output))
                .addSubcommand(new ProxyCommand(workbench, output))
                .addSubcommand(new PlanCommand(workbench, output))
                .addSubcommand(new RenameCommand(workbench, output))
                .addSubcommand(new PivotCommand(workbench, output))
                .addSubcommand(new NewSceneCommand(workbench, output))
                .addSubcommand(new AppendCommand.Append(workbench, output))
                .addSubcommand(new ReferenceCommand(workbench, output))
                .addSubcommand(new ArrangeCommand.Instance(workbench, output))
                .addSubcommand(new AppendCommand.Merge(workbench, output))
                .addSubcommand(new ArrangeCommand.BreakOut(workbench, output))
                .addSubcommand(new ArrangeCommand.Group(workbench, output))
                .addSubcommand(new ArrangeCommand.PlaceMany(workbench, output))
                .addSubcommand(new ArrangeCommand.Replace(workbench, output))
                .addSubcommand(new ArrangeCommand.WriteBack(workbench, output))
                .addSubcommand(new ArrangeCommand.Section(workbench, output))
                .addSubcommand(new ChooseCommand.Hang(workbench, output))
                .addSubcommand(new ChooseCommand.Paste(workbench, output))
                .addSubcommand(new ChooseCommand.Drawer(workbench, output))
                .addSubcommand(new ChooseCommand.AlternateSets(workbench, output))
                .addSubcommand(new ChooseCommand.Focuses(workbench, output))
                .addSubcommand(new OverrideCommand(workbench, output))
                .addSubcommand(new ChooseCommand.Anchor(workbench, output))
                .addSubcommand(new ChooseCommand.Settle(workbench, output))
                .addSubcommand(new TreeCommand(workbench, output))
                .addSubcommand(new WeighCommand(workbench, output))
                .addSubcommand(new FlattenCommand(workbench, output))
                .addSubcommand(new PackCommand(workbench, output))
                .addSubcommand(new ExplainCommand(workbench, output))
                .addSubcommand(new ConvertCommand(workbench, output))
                .addSubcommand(new ExportCommand(workbench, output));
        ServiceLoader.load(CommandSource.class)
                .forEach(source -> source.commands().forEach(line::addSubcommand));
        line.setOut(new PrintWriter(out, true));
        line.setErr(new PrintWriter(err, true));
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.setExecutionExceptionHandler((exception, failed, parsed) -> {
            tell(Problem.of(exception), failed, isJson(parsed), output);
            return 1;
        });
        line.setParameterExceptionHandler((exception, arguments) -> {
            tell(
                    Problem.of(exception),
                    exception.getCommandLine(),
                    List.of(arguments).contains("--json"),
                    output);
            return 2;
        });
        return line;
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
