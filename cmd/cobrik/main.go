// Command cobrik turns a design system's drawn components into coded ones and
// keeps the two in step.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	root := &cobra.Command{
		Use:   "cobrik",
		Short: "From drawn components to coded ones, and back in step",
		Long: `Cobrik drafts a contract from each family of a design document, emits code from
it, and lays design, contract and built component side by side.

serve and demo need PostgreSQL; every other command works on files alone.`,
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.AddCommand(serveCommand(), demoCommand(), tokensCommand(), colorCommand(), designCommand(), layoutCommand(), surveyCommand(), machineCommand(), contractCommand(), emitCommand(), catalogueCommand(), contentCommand(), agreeCommand(), diffCommand(), hookCommand(), openapiCommand())
	if err := root.ExecuteContext(ctx); err != nil {
		var code exitCode
		if errors.As(err, &code) {
			os.Exit(int(code))
		}
		if !errors.Is(err, errSilent) {
			fmt.Fprintln(os.Stderr, "cobrik:", err)
		}
		os.Exit(1)
	}
}
