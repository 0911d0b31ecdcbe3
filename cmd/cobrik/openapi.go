package main

import (
	"encoding/json"

	"github.com/gin-gonic/gin"
	"github.com/spf13/cobra"

	"cobrik/server"
)

func openapiCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "openapi",
		Short: "Print the API's description (OpenAPI 3.1)",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			gin.SetMode(gin.ReleaseMode)
			api := server.API(gin.New(), nil, server.Options{})
			e := json.NewEncoder(cmd.OutOrStdout())
			e.SetIndent("", " ")
			return e.Encode(api.OpenAPI())
		},
	}
}
